package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * From the pipeline to the spreadsheet: failures are pushed, one is explained, the next night
 * arrives explained.
 */
@OnSharedPortal
class TriageTest {
  private static final String STREAM = "triage/quay";
  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private void push(String stream, int night, String... tests) throws IOException {
    push("Fares.split", stream, night, tests);
  }

  /** A night on which all tests fail in the same place. */
  private void push(String place, String stream, int night, String[] tests) throws IOException {
    StringBuilder xml =
        new StringBuilder(
            "<testsuite name='org.skerrow.QuayTest' timestamp='2026-10-0" + night + "T03:00:00Z'>");
    for (String test : tests) {
      xml.append(
          "<testcase classname='org.skerrow.QuayTest' name='"
              + test
              + "' time='1'><error type='java.lang.ArithmeticException' message='/ by zero'>"
              + "java.lang.ArithmeticException: / by zero\n\tat org.skerrow."
              + place
              + "("
              + place.substring(0, place.indexOf('.'))
              + ".java:"
              + (night + 10)
              + ")\n\tat org.skerrow.QuayTest."
              + test
              + "(QuayTest.java:9)\n</error></testcase>");
    }
    Files.writeString(work.resolve("r.xml"), xml.append("</testsuite>"));
    Shell.Result result =
        portal.vine(work, "push", "r.xml", "--stream", stream, "--run", "run-" + night);
    assertThat(result.code()).as(result.err()).isZero();
    assertThat(result.err()).doesNotContain("explained");
  }

  private static Locator list(Page page) {
    return page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Results"));
  }

  private List<JsonNode> failures(String... more) {
    List<String> words = new ArrayList<>(List.of("export", "failures", "--stream", STREAM));
    words.addAll(List.of(more));
    Shell.Result result = portal.vine(work, words.toArray(String[]::new));
    assertThat(result.code()).as(result.err()).isZero();
    return result.out().lines().map(Portal::json).toList();
  }

  @Test
  void whatWasExplainedOnceIsExplainedTheNextNight() throws IOException {
    push(STREAM, 1, "boards", "=sums");
    Shell.Result decided =
        portal.vine(
            work,
            "triage",
            "decide",
            STREAM + "#1",
            "--test",
            "org.skerrow.QuayTest#boards",
            "--category",
            "Product fault",
            "--comment",
            "divides by \"heads\", of which there are none");
    assertThat(decided.code()).as(decided.err()).isZero();
    assertThat(decided.out()).contains("Product fault, carried to 1 more in this run");
    push(STREAM, 2, "boards", "lands");

    List<JsonNode> lines = failures();
    assertThat(lines).hasSize(4);
    for (JsonNode line : lines) {
      boolean first =
          line.path("run").asInt() == 1 && line.path("test").asText().endsWith("#boards");
      assertThat(line.path("origin").asText()).isEqualTo(first ? "hand" : "carried");
      assertThat(line.path("category").asText()).isEqualTo("Product fault");
      assertThat(line.path("group")).isEqualTo(lines.get(0).path("group"));
      assertThat(line.path("keyKind").asText()).isEqualTo("frame");
      assertThat(line.path("key").asText()).isEqualTo("run-" + line.path("run").asInt());
      assertThat(line.path("ticket").isNull()).isTrue();
    }
    assertThat(failures("--from", "2", "--to", "2")).hasSize(2);
    String csv =
        portal.vine(work, "export", "failures", "--stream", STREAM, "--format", "csv").out();
    assertThat(csv.lines().findFirst())
        .contains(
            "run,key,test,suite,group,keyKind,category,origin,decision,comment,ticket,result,by");
    assertThat(csv).contains("\"divides by \"\"heads\"\", of which there are none\"");

    assertThat(portal.vine(work, "wait", STREAM + "#2").code()).isZero();
    String decision = lines.get(0).path("decision").asText();
    assertThat(portal.vine(work, "triage", "undo", decision).code()).isZero();
    assertThat(failures("--from", "1", "--to", "1"))
        .allSatisfy(line -> assertThat(line.path("decision").isNull()).isTrue());
  }

  @Test
  void aRunIsExplainedFromTheKeyboardAndTheNextNightArrivesExplained() throws IOException {
    String stream = "triage/keys";
    push("Gangway.lower", stream, 1, new String[] {"boards", "lands", "moors"});
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, "/main/runs/" + stream + "/1");
      page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Groups")).click();
      assertThat(page.getByText("3 of 3 failures unsorted")).isVisible();
      assertThat(page.getByText("thrown in Gangway.lower as ArithmeticException")).isVisible();
      page.keyboard().press("c");
      page.keyboard().type("nobody aboard");
      page.keyboard().press("Enter");
      page.keyboard().press("1");
      assertThat(page.getByText("All explained")).isVisible();
      // In the list, and with the result beside it.
      assertThat(page.getByText("nobody aboard")).hasCount(2);
      Browsing.isAccessible(page);
      page.keyboard().press("u");
      assertThat(page.getByText("3 of 3 failures unsorted")).isVisible();
      page.keyboard().press("3");
      assertThat(page.getByText("All explained")).isVisible();

      push("Gangway.lower", stream, 2, new String[] {"boards", "sails"});
      page.navigate(portal.url + "/main/runs/" + stream + "/2?view=groups");
      assertThat(page.getByText("All explained")).isVisible();
      assertThat(list(page).getByText("carried")).isVisible();
      assertThat(list(page).getByText("since #1,")).isVisible();
      assertThat(page.getByText("this cause is not new: since #1,")).isVisible();
      page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("2 results of it"))
          .click();
      assertThat(page.getByText("sails").first()).isVisible();
      browsing.noErrors();
    }
  }

  @Test
  void aKeyPressedTwiceDoesNotExplainAnotherGroup() throws IOException {
    String stream = "triage/twice";
    push("Pilot.boards", stream, 1, new String[] {"boards", "lands", "moors"});
    push("Pilot.leaves", stream, 1, new String[] {"sails"});
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, "/main/runs/" + stream + "/1?view=groups");
      assertThat(page.getByText("4 of 4 failures unsorted")).isVisible();
      // The keys are those of the categories, which come later than the list.
      assertThat(
              page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Product fault"))
                  .first())
          .isVisible();
      page.keyboard().press("1");
      assertThat(page.getByText("1 of 4 failures unsorted")).isVisible();
      page.keyboard().press("1");
      page.waitForTimeout(1_500);
      assertThat(page.getByText("1 of 4 failures unsorted")).isVisible();
      page.keyboard().press("n");
      page.keyboard().press("2");
      assertThat(page.getByText("All explained")).isVisible();
      assertThat(list(page).getByText("by admin")).hasCount(2);
      browsing.noErrors();
    }
  }

  @Test
  void aWrongCallSaysWhatToDo() throws IOException {
    push("triage/wrong", 3, "boards");
    Shell.Result test =
        portal.vine(
            work,
            "triage",
            "decide",
            "triage/wrong",
            "--test",
            "QuayTest#boards",
            "--category",
            "Product fault");
    assertThat(test.code()).isEqualTo(5);
    assertThat(test.err()).contains("no test “QuayTest#boards” failed in that run");
    Shell.Result category =
        portal.vine(
            work,
            "triage",
            "decide",
            "triage/wrong",
            "--test",
            "org.skerrow.QuayTest#boards",
            "--category",
            "Moon");
    assertThat(category.code()).isEqualTo(5);
    assertThat(category.err()).contains("there is no category “Moon”; there are “Product fault”");
    assertThat(portal.vine(work, "triage").code()).isEqualTo(2);
    assertThat(portal.vine(work, "export", "failures", "--stream", "triage/none").code())
        .isEqualTo(3);
    assertThat(portal.vine(work, "triage", "undo", "999999").err())
        .contains("there is no decision 999999");
  }
}
