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
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Two projects, five people and tokens of each scope, all made in a browser; then who sees what.
 */
@OnOwnPortal
class PeopleConsoleTest {
  private static Browsing browsing;
  private static Portal portal;
  private @TempDir Path work;

  @BeforeAll
  static void open() {
    portal = Portal.start();
    browsing = new Browsing();
  }

  @AfterAll
  static void close() {
    browsing.close();
    portal.close();
  }

  @AfterEach
  void noErrors() {
    browsing.noErrors();
  }

  private static Locator button(Page page, String name) {
    return page.getByRole(
        AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
  }

  private static Locator heading(Page page, String name) {
    return page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName(name));
  }

  private static Locator field(Page page, String label) {
    return page.getByLabel(label, new Page.GetByLabelOptions().setExact(true));
  }

  private void push(String project, String token) throws IOException {
    Files.writeString(
        work.resolve("r.xml"),
        "<testsuite name='Tides'><testcase name='ebbs'/><testcase name='floods'>"
            + "<failure message='too high'/></testcase></testsuite>");
    Shell.Result sent = vine(token, "push", "r.xml", "--stream", project + "/nightly");
    assertThat(sent.code()).as(sent.err()).isZero();
  }

  private Shell.Result vine(String token, String... words) {
    List<String> command = new ArrayList<>(List.of(Shell.ROOT.resolve("vine").toString()));
    command.addAll(List.of(words));
    return Shell.run(
        work,
        Map.of("VINE_URL", portal.url, "VINE_TOKEN", token, "VINE_SPOOL", work + "/spool"),
        command);
  }

  /** The page of people gives a link, which opens in a browser of somebody else. */
  private static Page invited(Page admin, String login, String project, String role) {
    admin.navigate(portal.url + "/people");
    field(admin, "Name to sign in with").fill(login);
    field(admin, "Project").selectOption(project);
    if (!project.isEmpty()) {
      field(admin, "As").selectOption(role);
    }
    button(admin, "Make a link").click();
    Locator link = admin.getByRole(AriaRole.STATUS).locator("code");
    assertThat(link).containsText("/join#");
    if (project.isEmpty()) {
      opensByMistake(admin, link.textContent());
    }
    Page page = browsing.page();
    page.navigate(link.textContent());
    assertThat(heading(page, "Welcome")).isVisible();
    field(page, "Password, at least 12 characters").fill(People.PASSWORD);
    field(page, "Password again").fill(People.PASSWORD);
    if (project.isEmpty()) {
      Browsing.isAccessible(page);
    }
    button(page, "Go on").click();
    assertThat(page.getByText(login, new Page.GetByTextOptions().setExact(true))).isVisible();
    return page;
  }

  /** Whoever makes a link tries it, signed in as somebody else. */
  private static void opensByMistake(Page admin, String link) {
    Page tab = admin.context().newPage();
    tab.navigate(link);
    assertThat(tab.getByRole(AriaRole.STATUS)).containsText("You are signed in as admin here.");
    tab.close();
  }

  private static String token(Page owner, String project, String name, String... scopes) {
    owner.navigate(portal.url + "/" + project + "/tokens");
    field(owner, "Name, such as the pipeline that will use it").fill(name);
    for (String scope : List.of("send", "read", "edit")) {
      owner
          .getByRole(AriaRole.CHECKBOX, new Page.GetByRoleOptions().setName(scope + " "))
          .setChecked(List.of(scopes).contains(scope));
    }
    button(owner, "Make token").click();
    Locator secret = owner.getByRole(AriaRole.STATUS).locator("code").first();
    assertThat(secret).containsText("vine_" + project);
    return secret.textContent();
  }

  @Test
  void whoSeesWhat() throws IOException {
    Page admin = browsing.signedIn(portal, "/main/runs");
    admin.navigate(portal.url + "/projects");
    field(admin, "Name").fill("Ferry Booking");
    assertThat(field(admin, "Key, in addresses and tokens")).hasValue("ferry-booking");
    button(admin, "Make project").click();
    assertThat(admin.getByRole(AriaRole.MAIN)).containsText("ferry-booking");

    Map<String, Page> people = new LinkedHashMap<>();
    people.put("ada", invited(admin, "ada", "ferry-booking", "owner"));
    people.put("bo", invited(admin, "bo", "ferry-booking", "contributor"));
    people.put("cleo", invited(admin, "cleo", "ferry-booking", "reader"));
    people.put("dag", invited(admin, "dag", "main", "contributor"));
    people.put("eli", invited(admin, "eli", "", ""));

    Page ada = people.get("ada");
    Map<String, String> tokens = new LinkedHashMap<>();
    tokens.put("send", token(ada, "ferry-booking", "sender", "send"));
    tokens.put("read", token(ada, "ferry-booking", "reader", "read"));
    tokens.put("edit", token(ada, "ferry-booking", "editor", "read", "edit"));
    Browsing.isAccessible(ada);
    push("ferry-booking", tokens.get("send"));
    push("main", portal.token);
    assertThat(vine(tokens.get("read"), "push", "r.xml", "--stream", "ferry-booking/nightly").err())
        .contains("the token has the scopes read; this needs send");
    assertThat(vine(tokens.get("send"), "runs", "--stream", "ferry-booking/nightly").err())
        .contains("the token has the scopes send; this needs read");
    assertThat(note(tokens.get("read"))).isEqualTo(403);
    assertThat(note(tokens.get("edit"))).isEqualTo(200);

    sees(ada, "ferry-booking", true, true);
    sees(people.get("bo"), "ferry-booking", true, false);
    sees(people.get("cleo"), "ferry-booking", false, false);
    sees(people.get("dag"), "main", true, false);
    for (String login : List.of("ada", "bo", "cleo", "eli")) {
      seesNothing(people.get(login), "main");
    }
    seesNothing(people.get("dag"), "ferry-booking");
    seesNothing(people.get("eli"), "ferry-booking");
    people.get("eli").navigate(portal.url + "/nowhere/runs");
    assertThat(
            people.get("eli").getByText("there is no project “nowhere” that you may see").first())
        .isVisible();
    people.get("eli").navigate(portal.url + "/projects");
    assertThat(people.get("eli").getByRole(AriaRole.MAIN))
        .containsText("You are a member of no project yet");
    for (Page page : people.values()) {
      page.navigate(portal.url + "/people");
      assertThat(page.getByRole(AriaRole.ALERT)).containsText("only an administrator");
      page.navigate(portal.url + "/operations");
      assertThat(page.getByRole(AriaRole.ALERT)).containsText("only an administrator");
    }

    // Opened to all, it can be read by everybody, and no more.
    ada.navigate(portal.url + "/ferry-booking/members");
    field(ada, "Everybody who signs in may read this project").check();
    assertThat(field(ada, "Everybody who signs in may read this project")).isEnabled();
    assertThat(field(ada, "Everybody who signs in may read this project")).isChecked();
    sees(people.get("eli"), "ferry-booking", false, false);

    // A role that is changed holds at once; who is taken out is out, on the open page too.
    field(ada, "Role of cleo").selectOption("contributor");
    assertThat(field(ada, "Role of cleo")).isEnabled();
    assertThat(field(ada, "Role of cleo")).hasValue("contributor");
    sees(people.get("cleo"), "ferry-booking", true, false);
    admin.navigate(portal.url + "/people");
    Locator row = admin.getByRole(AriaRole.ROW, new Page.GetByRoleOptions().setName("bo"));
    for (String name : List.of("Disable", "Really disable")) {
      row.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(name)).click();
    }
    assertThat(row).containsText("disabled");
    people.get("bo").navigate(portal.url + "/ferry-booking/runs");
    assertThat(button(people.get("bo"), "Sign in")).isVisible();
    Browsing.isAccessible(admin);
    people.values().forEach(page -> page.context().close());
  }

  private static int note(String token) {
    String runs = "/api/v1/projects/ferry-booking/runs";
    JsonNode run =
        Portal.json(portal.send("GET", runs + "?stream=ferry-booking/nightly", token).body())
            .get(0);
    String note = runs + "/" + run.path("id").asLong() + "/note";
    String seen = portal.send("GET", note, token).headers().firstValue("ETag").orElseThrow();
    return portal
        .send(
            HttpRequest.newBuilder(URI.create(portal.url + note))
                .header("Authorization", "Bearer " + token)
                .header("Content-Type", "application/json")
                .header("If-Match", seen)
                .PUT(
                    HttpRequest.BodyPublishers.ofString(
                        "{\"description\":\"seen\",\"labels\":{},\"tags\":[]}"))
                .build())
        .statusCode();
  }

  /** The run, and what can be done about it. */
  private static void sees(Page page, String project, boolean edits, boolean owns) {
    page.navigate(portal.url + "/" + project + "/runs/" + project + "/nightly/1");
    assertThat(heading(page, project + "/nightly #1")).isVisible();
    assertThat(page.getByText("too high").first()).isVisible();
    assertThat(button(page, "overrule")).hasCount(edits ? 1 : 0);
    assertThat(button(page, "describe")).hasCount(edits ? 2 : 0);
    page.navigate(portal.url + "/" + project + "/members");
    assertThat(heading(page, "Members")).isVisible();
    assertThat(button(page, "Add")).hasCount(owns ? 1 : 0);
    page.navigate(portal.url + "/" + project + "/tokens");
    if (owns) {
      assertThat(button(page, "Make token")).isVisible();
    } else {
      assertThat(page.getByRole(AriaRole.ALERT)).containsText("you may not do this; an owner may");
      assertThat(button(page, "Make token")).hasCount(0);
    }
  }

  /** The same as for a project that does not exist, but for its name. */
  private static void seesNothing(Page page, String project) {
    page.navigate(portal.url + "/" + project + "/runs");
    assertThat(page.getByText("there is no project “" + project + "” that you may see").first())
        .isVisible();
    page.navigate(portal.url + "/projects");
    assertThat(heading(page, "Projects")).isVisible();
    assertThat(page.getByRole(AriaRole.MAIN)).not().containsText(project);
  }
}
