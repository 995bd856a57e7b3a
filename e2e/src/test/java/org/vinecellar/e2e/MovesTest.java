package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * What was sent under a wrong name is put right: by vine with an owner's own token, in a browser.
 */
@OnSharedPortal
class MovesTest {
  private static Browsing browsing;
  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  @BeforeAll
  static void open() {
    browsing = new Browsing();
  }

  @AfterAll
  static void close() {
    browsing.close();
  }

  @AfterEach
  void noErrors() {
    browsing.noErrors();
  }

  private void push(String stream, int night, boolean red) throws IOException {
    Files.writeString(
        work.resolve("r.xml"),
        "<testsuite name='S' timestamp='2026-10-0"
            + night
            + "T03:00:00Z'><testcase name='a' time='1'>"
            + (red ? "<failure message='wrong'/>" : "")
            + "</testcase></testsuite>");
    Shell.Result result = portal.vine(work, "push", "r.xml", "--stream", stream);
    assertThat(result.code()).as(result.err()).isZero();
  }

  private JsonNode shown(String run) {
    return Portal.json(portal.vine(work, "show", run, "--json").out());
  }

  private Shell.Result tidy(String token, String... words) {
    List<String> command = new ArrayList<>(List.of(Shell.ROOT.resolve("vine").toString()));
    command.addAll(List.of(words));
    return Shell.run(
        work, Map.of("VINE_URL", portal.url, "VINE_TOKEN", token, "VINE_PROJECT", "main"), command);
  }

  @Test
  void vineRenamesMovesAndDeletesWithAnOwnersOwnToken() throws IOException {
    People people = new People(portal);
    HttpResponse<String> made =
        people.call(
            people.signIn(portal.user, portal.password),
            "POST",
            "/session/tokens",
            "{\"name\":\"tidy\",\"scopes\":[\"read\",\"tidy\"]}");
    String token = Portal.json(made.body()).path("secret").asText();
    push("moves/quay", 1, false);
    push("moves/quay", 3, true);
    push("moves/kway", 2, true);

    Shell.Result refused = portal.vine(work, "move", "moves/kway#1", "--to", "moves/quay");
    assertThat(refused.code()).isEqualTo(5);
    assertThat(refused.err()).contains("an owner’s own token with the scope tidy");

    assertThat(tidy(token, "move", "moves/kway#1", "--to", "moves/quay").out())
        .isEqualTo("moves/kway#1 is moves/quay#3 now\n");
    // The run that follows is compared anew in the background, behind what others left there.
    JsonNode show = shown("moves/quay#2");
    for (int i = 0; i < 60 && show.path("run").path("previousNumber").asInt() != 3; i++) {
      show = shown("moves/quay#2");
    }
    assertThat(show.path("run").path("previousNumber").asInt()).isEqualTo(3);
    assertThat(show.path("failing").get(0).path("since").asInt()).isEqualTo(3);
    assertThat(show.path("lastGreen").path("number").asInt()).isEqualTo(1);
    assertThat(portal.vine(work, "show", "moves/quay#2").out())
        .contains("last green: #1, 2026-10-01 03:00 UTC")
        .contains("S › a  (since #3)");
    assertThat(portal.vine(work, "describe", "moves/quay#3").out())
        .contains("stream: moves/kway#1 → moves/quay#3");

    assertThat(tidy(token, "rename", "moves/quay", "moves/pier").out())
        .isEqualTo("moves/quay is called moves/pier now\n");
    push("moves/quay", 4, true);
    assertThat(portal.vine(work, "runs", "--stream", "moves/quay").out().lines()).hasSize(4);
    push("moves/late", 5, true);
    assertThat(tidy(token, "move", "moves/late", "--all", "--to", "moves/quay").out())
        .isEqualTo("1 runs of moves/late are in moves/pier now\n");
    assertThat(tidy(token, "rename", "moves/pier", "push\u0001").code()).isEqualTo(5);

    assertThat(tidy(token, "delete", "moves/pier#1").code()).isEqualTo(2);
    assertThat(tidy(token, "delete", "moves/pier#1", "--for-good").code()).isZero();
    assertThat(tidy(token, "delete", "moves/pier#1", "--for-good").code()).isEqualTo(3);
    assertThat(tidy(token, "delete", "moves/quay", "--all", "--for-good").code()).isEqualTo(5);
    assertThat(tidy(token, "delete", "moves/pier", "--all", "--for-good").code()).isZero();
    assertThat(portal.vine(work, "runs", "--stream", "moves/quay").code()).isEqualTo(3);
  }

  private static Locator button(Page page, String name) {
    return page.getByRole(
        AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
  }

  @Test
  void anOwnerPutsItRightInTheConsole() throws IOException {
    push("tidy/right", 1, false);
    push("tidy/wrong", 2, true);
    push("tidy/wrong", 3, true);
    Page page = browsing.signedIn(portal, "/main/runs/tidy/wrong/1");
    button(page, "move").click();
    page.getByLabel("To the stream").fill("tidy/none");
    button(page, "Move the run").click();
    assertThat(page.getByText("there is no stream “tidy/none”")).isVisible();
    page.getByLabel("To the stream").fill("tidy/right");
    button(page, "Move the run").click();
    assertThat(page.getByRole(AriaRole.HEADING).first()).containsText("tidy/right #2");
    assertThat(page.getByText("Since #1")).isVisible();

    page.navigate(portal.url + "/main/runs/tidy/wrong/1");
    assertThat(page).hasURL(portal.url + "/main/runs/tidy/right/2");

    page.navigate(portal.url + "/main/runs?stream=tidy/wrong");
    button(page, "rename").click();
    page.getByLabel("It shall be called").fill("tidy/right");
    assertThat(page.getByText("is there already, with 2 runs")).isVisible();
    button(page, "Move 1 run").click();
    Locator stream =
        page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Stream tidy/right"));
    assertThat(stream.getByText("3 runs")).isVisible();
    button(page, "rename").click();
    page.getByLabel("It shall be called").fill("tidy/best");
    button(page, "Rename").click();
    // Who leaves the page before it is answered may take it back.
    assertThat(page.getByRole(AriaRole.DIALOG)).isHidden();
    page.navigate(portal.url + "/main/runs?stream=tidy/wrong");
    assertThat(
            page.getByRole(
                AriaRole.REGION, new Page.GetByRoleOptions().setName("Stream tidy/best")))
        .isVisible();
    button(page, "rename").click();
    assertThat(page.getByText("Names of before")).isVisible();
    Browsing.isAccessible(page);
    page.getByRole(AriaRole.DIALOG)
        .getByRole(AriaRole.LISTITEM)
        .filter(new Locator.FilterOptions().setHasText("tidy/wrong"))
        .getByRole(AriaRole.BUTTON)
        .click();
    button(page, "Begin a stream anew with it").click();
    assertThat(button(page, "Begin a stream anew with it")).isHidden();
    assertThat(portal.vine(work, "runs", "--stream", "tidy/wrong").code()).isEqualTo(3);
  }
}
