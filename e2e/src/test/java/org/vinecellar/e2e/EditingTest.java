package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * What people write about runs and tests, and outcomes that they set: by HTTP, vine and console.
 */
@OnSharedPortal
class EditingTest {
  private static final String XML =
      "<testsuite name='S'><testcase name='a'><failure message='wrong'/></testcase>"
          + "<testcase name='b'/></testsuite>";

  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private JsonNode push(String stream) throws IOException {
    Files.writeString(work.resolve("r.xml"), XML);
    ok("push", "r.xml", "--stream", stream, "--label", "team=fares");
    return portal.get("/api/v1/projects/main/runs?stream=" + stream).get(0);
  }

  private Shell.Result ok(String... words) {
    Shell.Result result = portal.vine(work, words);
    assertThat(result.code()).as(result.err()).isZero();
    return result;
  }

  private HttpResponse<String> put(String path, @Nullable String tag, String json) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(portal.url + "/api/v1/projects/main/" + path))
            .header("Authorization", "Bearer " + portal.token)
            .header("Content-Type", "application/json")
            .PUT(HttpRequest.BodyPublishers.ofString(json));
    if (tag != null) {
      request.header("If-Match", tag);
    }
    return portal.send(request.build());
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "       | {}                            | 428 | send If-Match with the ETag",
        "0      | {}                            | 428 | send If-Match with the ETag",
        "*      | {}                            | 428 | send If-Match with the ETag",
        "'\"7-0\"' | {}                          | 412 | changed this after you had read it",
        "seen   | {\"tags\":[null]}               | 400 | is not one word",
        "seen   | {\"labels\":{\"a\":null}}         | 400 | the label a is empty",
        "seen   | {\"labels\":{\"a b\":\"c\"}}      | 400 | is not a word of letters",
        "seen   | {\"tags\":[\"two words\"]}      | 400 | is not one word",
        "seen   | {\"labels\":3}                | 400 | the JSON of the request",
        "seen   |                               | 400 | send the note as JSON",
      })
  void aNoteThatCannotBeTakenChangesNothing(
      @Nullable String tag, @Nullable String body, int status, String told) throws IOException {
    long run = push("edits/refused").path("id").asLong();
    String path = "/api/v1/projects/main/runs/" + run + "/note";
    String seen = portal.send("GET", path, portal.token).headers().firstValue("ETag").orElseThrow();
    HttpResponse<String> answer =
        put("runs/" + run + "/note", "seen".equals(tag) ? seen : tag, body == null ? "" : body);

    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(status);
    assertThat(Portal.json(answer.body()).path("detail").asText()).contains(told);
    assertThat(portal.send("GET", path, portal.token).headers().firstValue("ETag")).contains(seen);
    assertThat(portal.get("/api/v1/projects/main/runs/" + run + "/edits")).isEmpty();
  }

  @Test
  void vineWritesWhatOthersRead() throws IOException {
    String name = "edits/vine#" + push("edits/vine").path("number").asInt();
    Files.writeString(work.resolve("night.md"), "The **quay**\nwas shut\n");
    ok("describe", name, "--text-file", "night.md", "--label", "env=staging");
    ok("describe", name, "--drop-label", "team", "--tag", "storm", "--tag", "storm");
    Shell.Result shown = ok("describe", name);
    assertThat(shown.out())
        .startsWith(name + "\n  env=staging  storm\n  The **quay**\n  was shut\n")
        .contains("token “first token”  label team: fares → none");

    assertThat(portal.vine(work, "overrule", name, "1-0", "--reason", "x").code()).isEqualTo(2);
    ok("overrule", name, "1-0", "--as", "skipped", "--reason", "until Monday");
    assertThat(portal.vine(work, "overrule", name, "1-0", "--as", "skipped", "--reason", "x").err())
        .contains("the outcome is “skipped” already");
    assertThat(ok("show", name).out()).contains("1 passed, 1 skipped").contains("1 overruled");
    JsonNode json = Portal.json(ok("describe", name, "--result", "1-0", "--json").out());
    assertThat(json.path("note").path("description").isNull()).isTrue();
    ok("overrule", name, "1-0", "--take-back", "--reason", "it is real");
    assertThat(ok("show", name).out())
        .contains("1 failed, 1 passed")
        .doesNotContain("overruled")
        .contains("S › a  (new)  1-0");
  }

  private static Locator button(Page page, String name) {
    return page.getByRole(
        AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
  }

  private static Locator dialog(Page page) {
    return page.getByRole(AriaRole.DIALOG);
  }

  @Test
  void whoEditsAtTheSameTimeIsToldAndLosesNothing() throws IOException {
    String path = "/main/runs/edits/both/" + push("edits/both").path("number").asInt();
    try (Browsing browsing = new Browsing()) {
      Page mine = browsing.signedIn(portal, path);
      Page theirs = browsing.signedIn(portal, path);
      mine.locator("header").getByText("describe").last().click();
      mine.getByLabel("Description")
          .fill("Mine, <img src=x onerror=alert(1)> [x](javascript:alert(2))");
      Browsing.isAccessible(mine);

      theirs.locator("header").getByText("describe").last().click();
      theirs.getByLabel("Description").fill("Theirs");
      theirs.getByLabel("Tags").fill("storm quay");
      button(theirs, "Save").click();
      assertThat(dialog(theirs)).isHidden();
      assertThat(theirs.locator("main")).containsText("Theirs");

      button(mine, "Save").click();
      assertThat(mine.getByRole(AriaRole.ALERT)).containsText("changed this after you had read it");
      assertThat(mine.getByLabel("What stands now")).containsText("Theirs");
      assertThat(mine.getByLabel("Description")).hasValue(java.util.regex.Pattern.compile("^Mine"));
      assertThat(button(mine, "Save")).isDisabled();
      button(mine, "Save mine over it").click();
      assertThat(dialog(mine)).isHidden();
      Locator text = mine.locator("main .prose-notes");
      assertThat(text).containsText("<img src=x onerror=alert(1)>");
      assertThat(text.locator("img")).hasCount(0);
      assertThat(text.getByText("x", new Locator.GetByTextOptions().setExact(true)))
          .hasAttribute("href", "");
      browsing.noErrors();
    }
  }

  @Test
  void aResultIsOverruledFromTheKeyboard() throws IOException {
    int number = push("edits/keys").path("number").asInt();
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, "/main/runs/edits/keys/" + number + "?result=1-0");
      button(page, "overrule").focus();
      page.keyboard().press("Enter");
      assertThat(dialog(page)).isVisible();
      Browsing.isAccessible(page);
      page.keyboard().press("Escape");
      assertThat(dialog(page)).isHidden();
      page.keyboard().press("Enter");
      page.getByLabel("Why").fill("The rule changes on Monday");
      button(page, "Overrule").focus();
      page.keyboard().press("Enter");
      assertThat(dialog(page)).isHidden();
      Locator result = page.getByLabel("Result", new Page.GetByLabelOptions().setExact(true));
      assertThat(result).containsText("Reported as failed; overruled by " + portal.user);
      assertThat(page.locator("header").last()).containsText("nothing failed");
      button(page, "1 overruled").click();
      assertThat(
              page.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("List of results"))
                  .getByRole(AriaRole.LINK))
          .hasCount(1);
      Browsing.isAccessible(page);
      browsing.noErrors();
    }
  }

  @Test
  void settingsOfAStreamAreKept() throws IOException {
    push("edits/settings");
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, "/main/runs?stream=edits/settings");
      button(page, "settings").click();
      page.getByLabel("closes after a silence").fill("90");
      page.getByLabel("Bundles are kept").fill("7");
      page.getByLabel("The main branch is").fill("release");
      Browsing.isAccessible(page);
      button(page, "Save").click();
      assertThat(dialog(page)).isHidden();
      button(page, "settings").click();
      assertThat(page.getByLabel("closes after a silence")).hasValue("90");
      browsing.noErrors();
    }
    JsonNode settings = portal.get("/api/v1/projects/main/streams/settings?name=edits/settings");
    assertThat(settings.path("own"))
        .isEqualTo(
            Portal.json(
                "{'silenceMinutes':90,'bundleDays':7,'bundleMegabytes':null,'mainBranch':'release'}"
                    .replace('\'', '"')));
    assertThat(settings.path("usual").path("bundleMegabytes").asInt()).isEqualTo(500);
  }
}
