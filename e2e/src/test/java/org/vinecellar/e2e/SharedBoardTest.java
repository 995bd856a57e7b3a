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
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Boards that tell of several projects, and boards for those who have no account. */
@OnSharedPortal
class SharedBoardTest {
  private static final String BOARDS = "/api/v1/projects/main/boards";
  private static final String STREAM = "shared/nightly";
  private static final String ONLY = "stream eq \\\"" + STREAM + "\\\"";

  private final Portal portal = Portal.shared();
  private final People people = new People(portal);
  private @TempDir Path work;

  /** By a token of the project, or by nobody. */
  private HttpResponse<String> send(String method, String path, String body, boolean signed) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(portal.url + path))
            .header("Content-Type", "application/json")
            .method(method, HttpRequest.BodyPublishers.ofString(body));
    return portal.send(
        signed
            ? request.header("Authorization", "Bearer " + portal.token).build()
            : request.build());
  }

  private JsonNode ok(String method, String path, String body) {
    HttpResponse<String> answer = send(method, path, body, true);
    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
    return Portal.json(answer.body());
  }

  private void push() throws IOException {
    Files.writeString(
        work.resolve("r.xml"),
        "<testsuite name='lights'><testcase name='shines' time='2'><failure message='dark'/>"
            + "</testcase><testcase name='turns' time='1'/></testsuite>");
    assertThat(
            Shell.run(
                    work,
                    Map.of("VINE_URL", portal.url, "VINE_TOKEN", portal.token),
                    List.of(Shell.ROOT + "/vine", "push", "r.xml", "--stream", STREAM))
                .code())
        .isZero();
  }

  private long board(String name, String other) {
    String of = "\"filter\":\"" + ONLY + "\",\"height\":3";
    return ok(
            "POST",
            BOARDS,
            "{\"name\":\""
                + name
                + "\",\"panels\":[{\"kind\":\"worst\",\"title\":\"Dark\","
                + of
                + "},{\"kind\":\"outcomes\",\"y\":3,"
                + of
                + "},{\"kind\":\"text\",\"y\":6,\"text\":\"for **all**\"},"
                + "{\"kind\":\"latest\",\"y\":10,\"project\":\""
                + other
                + "\"}]}")
        .path("id")
        .asLong();
  }

  /** Who may read the other project sees its numbers, and is led there; others are told so. */
  @Test
  void aPanelOfAnotherProjectIsForThoseWhoMayReadThat() throws IOException {
    push();
    People.SignedIn admin = people.signIn(portal.user, portal.password);
    assertThat(
            people
                .call(
                    admin, "POST", "/projects", "{\"key\":\"lamp-works\",\"name\":\"Lamp Works\"}")
                .statusCode())
        .isEqualTo(201);
    String panel = "{\"panel\":{\"kind\":\"outcomes\",\"project\":\"%s\",\"filter\":\"%s\"}}";
    String other = String.format(panel, "main", ONLY);
    HttpResponse<String> seen =
        people.call(admin, "POST", "/projects/lamp-works/boards/sheet", other);
    assertThat(seen.statusCode()).as(seen.body()).isEqualTo(200);
    assertThat(seen.body())
        .isEqualTo(send("POST", BOARDS + "/sheet", other, true).body())
        .contains(STREAM);
    HttpResponse<String> not =
        send("POST", BOARDS + "/sheet", String.format(panel, "lamp-works", ""), true);
    assertThat(not.statusCode()).isEqualTo(404);
    assertThat(not.body()).contains("no project “lamp-works” that you may see");
    HttpResponse<String> saved =
        send("POST", BOARDS + "/sheet", String.format(panel, "main", "saved eq \\\"x\\\""), true);
    assertThat(saved.statusCode()).isEqualTo(400);
    assertThat(saved.body()).contains("write out what it asks");

    long board = board("Of two projects", "lamp-works");
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, "/main/boards/" + board + "?edit=true");
      page.getByLabel("Change Dark").click();
      page.getByLabel("Of the project").selectOption("lamp-works");
      assertThat(page.getByText("No test failed")).isVisible();
      Browsing.isAccessible(page);
      page.getByLabel("Of the project").selectOption("");
      page.getByRole(AriaRole.BUTTON, named("Cancel")).click();
      assertThat(page.getByText("lamp-works · 30 days")).hasCount(0);
      browsing.noErrors();
    }
  }

  @Test
  void aLinkOpensTheBoardAndNothingElse() throws IOException {
    push();
    long board = board("For the harbour master", "elsewhere");
    String links = BOARDS + "/" + board + "/links";
    People.SignedIn admin = people.signIn(portal.user, portal.password);
    for (String days : List.of("0", "367", "-1")) {
      assertThat(owner(admin, "POST", links, "{\"days\":" + days + "}").statusCode())
          .isEqualTo(400);
    }
    assertThat(owner(admin, "POST", BOARDS + "/999999/links", "{}").statusCode()).isEqualTo(404);
    assertThat(send("POST", links, "{\"days\":2}", true).statusCode()).as("a token").isEqualTo(403);
    JsonNode made = Portal.json(owner(admin, "POST", links, "{\"days\":2}").body());
    String url = made.path("url").asText();
    String secret = url.substring(url.indexOf('#') + 1);
    assertThat(owner(admin, "GET", links, null).body()).contains("madeBy").doesNotContain(secret);
    for (String wrong : List.of("", secret + "x", secret.substring(1), "a".repeat(5_000))) {
      assertThat(opened(wrong, "board", null).statusCode()).isEqualTo(404);
      assertThat(opened(wrong, "sheet", "1").statusCode()).isEqualTo(404);
    }
    assertThat(Portal.json(opened(secret, "board", null).body()).path("name").asText())
        .isEqualTo("For the harbour master");
    for (String panel : List.of("1", "2")) {
      String sheet = opened(secret, "sheet", panel).body();
      assertThat(sheet).contains("\"rows\"").doesNotContain("\"filter\"");
      assertThat(Portal.json(sheet).findValues("link")).isNotEmpty().allMatch(JsonNode::isNull);
    }
    assertThat(opened(secret, "sheet", "4").statusCode()).as("another project").isEqualTo(403);
    for (String panel : List.of("0", "5", "null")) {
      assertThat(opened(secret, "sheet", panel).statusCode()).isEqualTo(404);
    }
    for (String version : List.of("0", "2")) {
      String body = "{\"secret\":\"" + secret + "\",\"panel\":1,\"version\":" + version + "}";
      assertThat(send("POST", "/api/v1/shared/sheet", body, false).statusCode()).isEqualTo(412);
    }
    // The secret is no token.
    assertThat(portal.send("GET", BOARDS, secret).statusCode()).isEqualTo(401);

    try (Browsing browsing = new Browsing()) {
      Page page = browsing.page();
      page.navigate(url);
      assertThat(page.getByText("shines")).isVisible();
      assertThat(page.getByText("for all")).isVisible();
      assertThat(page.getByText("Of another project")).isVisible();
      assertThat(page.locator("main a")).hasCount(0);
      Browsing.isAccessible(page);
      takenBack(browsing.signedIn(portal, "/main/boards/" + board));
      page.reload();
      assertThat(page.getByRole(AriaRole.HEADING, named("This link opens nothing"))).isVisible();
      browsing.noErrors();
    }
    assertThat(opened(secret, "sheet", "1").statusCode()).isEqualTo(404);
  }

  private static void takenBack(Page page) {
    page.getByLabel("More of the board").click();
    page.getByText("Links for others").click();
    Locator dialog = page.getByRole(AriaRole.DIALOG);
    assertThat(dialog.getByRole(AriaRole.ROW)).hasCount(2);
    Browsing.isAccessible(page);
    dialog.getByText("Take back").click();
    dialog.getByText("Nobody sees it by this link any more").click();
    assertThat(dialog.getByRole(AriaRole.ROW)).hasCount(0);
    dialog.getByText("Make a link").click();
    assertThat(dialog.locator("code")).containsText("/shared#");
    assertThat(dialog.getByRole(AriaRole.ROW)).hasCount(2);
  }

  private HttpResponse<String> owner(People.SignedIn who, String method, String path, String json) {
    return people.call(who, method, path.substring("/api/v1".length()), json);
  }

  private HttpResponse<String> opened(String secret, String what, String panel) {
    String body = "{\"secret\":\"" + secret + "\",\"panel\":" + panel + ",\"version\":1}";
    return send("POST", "/api/v1/shared/" + what, body, false);
  }

  private static Page.GetByRoleOptions named(String name) {
    return new Page.GetByRoleOptions().setName(name).setExact(true);
  }
}
