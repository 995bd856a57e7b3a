package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Filters as people build, save and share them, in the console and by {@code vine}. */
@OnSharedPortal
class FiltersTest {
  private static final String STREAM = "filters/nightly";
  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private Shell.Result vine(String... words) {
    List<String> all = new ArrayList<>(List.of(Shell.ROOT + "/vine"));
    all.addAll(List.of(words));
    return Shell.run(work, Map.of("VINE_URL", portal.url, "VINE_TOKEN", portal.token), all);
  }

  private void push(String branch) throws IOException {
    Files.writeString(
        work.resolve("r.xml"),
        "<testsuite name='helm'><testcase classname='HelmTest' name='turns'><failure message='no "
            + "rudder'/></testcase><testcase classname='HelmTest' name='holds'/><system-out>"
            + branch
            + "</system-out></testsuite>");
    assertThat(vine("push", "r.xml", "--stream", STREAM, "--branch", branch).code()).isZero();
  }

  private static String found(String filter) {
    return "/main/found?of=result&filter=" + URLEncoder.encode(filter, StandardCharsets.UTF_8);
  }

  private static Locator filter(Page page) {
    return page.getByLabel("Filter of results");
  }

  private static void saysCount(Page page, String text) {
    assertThat(page.getByRole(AriaRole.STATUS).first()).hasText(text);
  }

  /** The text follows the tree and the tree the text; then it gets a name and goes by that. */
  @Test
  void aFilterIsBuiltSavedAndUsed() throws IOException {
    push("main");
    push("other");
    String begin = "run.stream eq \"" + STREAM + "\"";
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, found(begin));
      saysCount(page, "4 results");
      page.getByLabel("As a tree").click();
      Locator tree = page.getByLabel("The filter as a tree");
      assertThat(tree.getByLabel("Value of run.stream")).hasValue(STREAM);

      tree.getByText("Condition").click();
      assertThat(filter(page)).hasValue(begin + " and outcome eq \"passed\"");
      tree.getByLabel("Value of outcome").selectOption("failed");
      assertThat(filter(page)).hasValue(begin + " and outcome eq \"failed\"");
      saysCount(page, "2 results");
      tree.getByText("Condition").click();
      tree.getByLabel("What of the result").last().selectOption("run[");
      tree.getByLabel("What of the run").selectOption("branch");
      tree.getByLabel("Value of branch").fill("main");
      assertThat(filter(page))
          .hasValue(begin + " and outcome eq \"failed\" and run[branch eq \"main\"]");
      saysCount(page, "1 result");
      tree.getByLabel("Must not hold").last().click();
      assertThat(filter(page))
          .hasValue(begin + " and outcome eq \"failed\" and run[not (branch eq \"main\")]");
      Browsing.isAccessible(page);

      // Back by the text, and the tree follows.
      filter(page).fill(begin + " or duration gt 5000");
      assertThat(tree.getByLabel("How the conditions on a result go together").first())
          .hasValue("any");
      assertThat(tree.getByLabel("Value of duration")).hasValue("5000");
      filter(page).fill(begin + " and outcome eq \"fai");
      assertThat(tree.getByLabel("Value of duration")).hasValue("5000");
      filter(page).fill(begin + " and outcome eq \"failed\"");
      assertThat(tree.getByLabel("Value of outcome")).hasValue("\"failed\"");
      saysCount(page, "2 results");

      page.getByLabel("Saved filters").click();
      Locator dialog = page.getByRole(AriaRole.DIALOG);
      dialog.getByLabel("Name").fill("Rudder");
      dialog.getByLabel("for all of the project").check();
      Browsing.isAccessible(page);
      dialog.getByText("Save it").click();
      assertThat(filter(page)).hasValue("saved eq \"Rudder\"");
      saysCount(page, "2 results");
      isChangedWhereItIsUsed(page);
      browsing.noErrors();
    }
  }

  private void isChangedWhereItIsUsed(Page page) {
    Shell.Result kept =
        vine(
            "filters",
            "keep",
            "Rudder runs",
            "--of",
            "run",
            "--filter",
            "results[saved eq \"Rudder\"]");
    assertThat(kept.out()).contains("saved eq \"Rudder runs\"");
    assertThat(vine("runs", "--saved", "Rudder runs").out()).contains(STREAM).contains("2 ");
    assertThat(vine("filters", "drop", "Rudder").err())
        .contains("“Rudder” is used by the filter “Rudder runs”");

    page.navigate(portal.url + "/main/filters");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Rudder").setExact(true))
        .click();
    assertThat(page.getByText("A change changes what names it")).containsText("“Rudder runs”");
    assertThat(page.getByText("Remove", new Page.GetByTextOptions().setExact(true))).isDisabled();
    Browsing.isAccessible(page);
    page.getByLabel("Name").fill("Helm");
    filter(page)
        .fill("run.stream eq \"" + STREAM + "\" and outcome eq \"passed\" and name eq \"x\"");
    page.getByText("Change it").click();
    assertThat(page.getByText("results[saved eq \"Helm\"]")).isVisible();
    assertThat(vine("runs", "--saved", "Rudder runs").out()).doesNotContain(STREAM);
    assertThat(vine("runs", "--saved", "Rudder").err())
        .contains("there is no saved filter “Rudder” in this project");
  }

  /** As a file, from one project to another, whatever names whatever. */
  @Test
  void filtersAreTakenAlong() throws IOException {
    assertThat(vine("filters", "keep", "Z of tests", "--of", "test", "--filter", "tag pr").code())
        .isZero();
    assertThat(
            vine(
                    "filters",
                    "keep",
                    "A of tests",
                    "--of",
                    "test",
                    "--filter",
                    "saved eq \"Z of tests\" and suite pr")
                .code())
        .isZero();
    String listed = vine("filters", "list", "--json").out();
    List<String> mine = new ArrayList<>();
    for (JsonNode one : Portal.json(listed)) {
      if (one.path("name").asText().endsWith(" of tests")) {
        mine.add(one.toString());
      }
    }
    Files.writeString(work.resolve("f.json"), "[" + String.join(",", mine) + "]");
    assertThat(vine("filters", "drop", "A of tests").code()).isZero();
    assertThat(vine("filters", "drop", "Z of tests").code()).isZero();
    assertThat(vine("filters", "bring", "f.json").out()).contains("2 filters were kept");
    assertThat(vine("filters", "list").out())
        .containsPattern(
            Pattern.compile("A of tests  of tests\n  saved eq \"Z of tests\" and suite pr"));
    Shell.Result again = vine("filters", "bring", "f.json");
    assertThat(again.code()).isEqualTo(5);
    assertThat(again.err()).contains("0 of 2 were kept").contains("already");
    Files.writeString(work.resolve("f.json"), "{}");
    assertThat(vine("filters", "bring", "f.json").code()).isEqualTo(4);
    assertThat(vine("filters", "bring", "nowhere.json").code()).isEqualTo(4);
  }
}
