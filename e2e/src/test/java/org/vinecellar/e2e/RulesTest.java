package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A lead writes a rule, sees what it would do, keeps it, and the next night arrives explained. */
@OnSharedPortal
class RulesTest {
  private static final String STREAM = "quay/nightly";
  private final Portal portal = Portal.shared();
  private @TempDir Path work;
  private Map<String, String> env;

  @BeforeEach
  void freshProject() {
    People people = new People(portal);
    People.SignedIn admin = people.signIn(portal.user, portal.password);
    assertThat(
            people
                .call(admin, "POST", "/projects", "{\"key\":\"rules\",\"name\":\"Rules\"}")
                .statusCode())
        .isEqualTo(201);
    String token =
        Portal.json(
                people.call(admin, "POST", "/projects/rules/tokens", "{\"name\":\"ci\"}").body())
            .path("secret")
            .asText();
    env = Map.of("VINE_URL", portal.url, "VINE_TOKEN", token);
  }

  private Shell.Result vine(String... words) {
    List<String> command = new java.util.ArrayList<>(List.of(Shell.ROOT + "/vine"));
    command.addAll(List.of(words));
    Shell.Result result = Shell.run(work, env, command);
    assertThat(result.code()).as(result.err()).isZero();
    return result;
  }

  private void night(int night) throws IOException {
    Files.writeString(
        work.resolve("r.xml"),
        "<testsuite name='QuayTest' timestamp='2026-10-0"
            + night
            + "T03:00:00Z'>"
            + "<testcase classname='QuayTest' name='boards'><error type='java.io.IOException'"
            + " message='tide gauge "
            + night
            + " is dry'>java.io.IOException: tide gauge "
            + night
            + " is dry\n\tat org.skerrow.Tide.level(Tide.java:9)</error></testcase>"
            + "<testcase classname='QuayTest' name='sails'><failure"
            + " message='expected: &lt;3&gt; but was: &lt;4&gt;'/></testcase></testsuite>");
    vine("push", "r.xml", "--stream", STREAM, "--run", "run-" + night);
  }

  private List<String> said() {
    return vine("export", "failures", "--stream", STREAM)
        .out()
        .lines()
        .map(Portal::json)
        .map(
            line ->
                line.path("run").asText()
                    + line.path("test").asText().replaceAll(".*#", " ")
                    + " "
                    + line.path("category").asText()
                    + " "
                    + line.path("origin").asText())
        .toList();
  }

  @Test
  void aRuleIsTriedKeptAndExplainsTheNextNight() throws IOException {
    night(1);
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, "/rules/triage/rules");
      assertThat(page.getByText("No rule is on")).isVisible();
      button(page, "New rule").click();
      page.getByLabel("pattern stands").fill("tide gauge \\d+ is dry(");
      assertThat(page.getByText("missing closing )")).isVisible();
      page.getByLabel("pattern stands").fill("(?i)TIDE gauge \\d+ is dry");
      assertThat(page.getByText("It fits 1 of 2 failures in 1 run, and would explain 1"))
          .isVisible();
      page.getByLabel("Filter of results").fill("run.stream eq \"elsewhere\"");
      assertThat(page.getByText("It fits none of 2 failures")).isVisible();
      page.getByLabel("Filter of results").fill("run.stream sw \"quay\"");
      assertThat(page.getByText("and would explain 1")).isVisible();
      page.getByLabel("Name").fill("Dry gauge");
      page.getByLabel("This is a").selectOption("Test data fault");
      Browsing.isAccessible(page);
      button(page, "Keep the rule").click();
      assertThat(page.getByText("1 rule is on · 1 failure explained so far")).isVisible();
      assertThat(said()).containsExactly("1 boards Test data fault rule", "1 sails null null");

      night(2);
      assertThat(said()).contains("2 boards Test data fault rule", "2 sails null null");
      JsonNode shown = Portal.json(vine("show", STREAM + "#2", "--json").out());
      assertThat(shown.toString()).contains("Dry gauge");

      // What is called otherwise is called so everywhere; what is retired is not offered.
      page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Categories")).click();
      button(page, "Edit Test data fault").click();
      page.getByLabel("Name").fill("Bad data");
      page.getByRole(AriaRole.RADIO, new Page.GetByRoleOptions().setName("plum")).check();
      button(page, "Save").click();
      assertThat(button(page, "Edit Bad data")).isVisible();
      Browsing.isAccessible(page);
      assertThat(said()).contains("1 boards Bad data rule", "2 boards Bad data rule");
      button(page, "Edit Bad data").click();
      page.getByLabel("retired").check();
      button(page, "Save").click();
      assertThat(page.getByText("The rule “Dry gauge” explains with “Bad data”")).isVisible();

      page.navigate(portal.url + "/rules/triage/rules");
      button(page, "Dry gauge").first().click();
      button(page, "Take back").click();
      button(page, "Off, and take back all it explained").click();
      assertThat(page.getByText("2 failures are unsorted again.")).isVisible();
      page.navigate(portal.url + "/rules/triage?days=0");
      assertThat(page.getByText("2 groups to sort")).isVisible();

      // Both are one cause; no, they are not; but one decision for both.
      page.keyboard().press("x");
      page.keyboard().press("j");
      page.keyboard().press("x");
      assertThat(page.getByText("2 groups marked")).isVisible();
      Browsing.isAccessible(page);
      page.keyboard().press("t");
      assertThat(page.getByText("1 group to sort")).isVisible();
      assertThat(page.getByText("This is one with")).isVisible();
      button(page, "Undo").click();
      button(page, "Take it out again").click();
      assertThat(page.getByText("2 groups to sort")).isVisible();
      page.keyboard().press("x");
      page.keyboard().press("k");
      page.keyboard().press("j");
      page.keyboard().press("Escape");
      page.keyboard().press("x");
      page.keyboard().press("k");
      page.keyboard().press("x");
      assertThat(page.getByText("2 groups marked")).isVisible();
      page.keyboard().press("1");
      assertThat(page.getByText("Nothing to sort")).isVisible();
      assertThat(said())
          .allMatch(
              line ->
                  line.endsWith("Product fault hand") || line.endsWith("Product fault carried"));
      browsing.noErrors();
    }
  }

  private static com.microsoft.playwright.Locator button(Page page, String name) {
    return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name));
  }
}
