package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Two projects and five people, each in a browser of their own: who sees what. */
class PeopleConsoleTest {
  private static Portal portal;
  private static Browsing browsing;

  @BeforeAll
  static void open() {
    portal = Portal.start();
    browsing = new Browsing();
  }

  @AfterAll
  static void close() {
    browsing.noErrors();
    browsing.close();
    portal.close();
  }

  private static Locator button(Page page, String name) {
    return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name));
  }

  private static Locator link(Page page, String name) {
    return page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(name).setExact(true));
  }

  /** The link that an administrator gets for somebody. */
  private static String invite(Page admin, String login, String project, String role) {
    admin.navigate(portal.url + "/people");
    admin.getByLabel("Name to sign in with").fill(login);
    admin.getByLabel("Project").selectOption(project);
    if (!project.isEmpty()) {
      admin.getByLabel("As", new Page.GetByLabelOptions().setExact(true)).selectOption(role);
    }
    button(admin, "Make a link").click();
    Locator shown = admin.getByRole(AriaRole.STATUS).locator("code");
    assertThat(shown).containsText("/join#");
    return shown.textContent();
  }

  private static Page join(String url, String login) {
    Page page = browsing.page();
    page.navigate(url);
    assertThat(page.getByText(login)).isVisible();
    page.getByLabel("Password, at least").fill(People.PASSWORD);
    page.getByLabel("Password again").fill("something else");
    assertThat(page.getByRole(AriaRole.ALERT)).containsText("not the same");
    page.getByLabel("Password again").fill(People.PASSWORD);
    button(page, "Go on").click();
    page.waitForURL(Pattern.compile(".*/(projects|[a-z]+/runs)$"));
    return page;
  }

  private static void menu(Page page, String login) {
    page.locator("summary").filter(new Locator.FilterOptions().setHasText(login)).click();
  }

  @Test
  void whoSeesWhat() {
    Page admin = browsing.signedIn(portal, "/projects");
    admin.getByLabel("Name").fill("Harbour");
    button(admin, "Make project").click();
    assertThat(link(admin, "Harbour")).isVisible();

    String link = invite(admin, "olga", "main", "owner");
    Browsing.isAccessible(admin);
    Page owner = join(link, "olga");
    Page contributor = join(invite(admin, "carl", "main", "contributor"), "carl");
    Page reader = join(invite(admin, "rita", "main", "reader"), "rita");
    Page stranger = join(invite(admin, "sten", "", ""), "sten");

    Page again = browsing.page();
    again.navigate(link);
    assertThat(again.getByText("is not good any more")).isVisible();

    menu(owner, "olga");
    assertThat(link(owner, "Tokens of this project")).isVisible();
    assertThat(link(owner, "People")).hasCount(0);
    for (Page page : List.of(contributor, reader)) {
      menu(page, page == reader ? "rita" : "carl");
      assertThat(link(page, "Members of this project")).isVisible();
      assertThat(link(page, "Tokens of this project")).hasCount(0);
      page.navigate(portal.url + "/main/tokens");
      assertThat(page.getByRole(AriaRole.ALERT).first()).containsText("an owner may");
      page.navigate(portal.url + "/operations");
      assertThat(page.getByRole(AriaRole.ALERT).first()).containsText("only an administrator");
      page.navigate(portal.url + "/projects");
      assertThat(link(page, "Main")).isVisible();
      assertThat(link(page, "Harbour")).hasCount(0);
    }
    assertThat(stranger.getByText("member of no project yet")).isVisible();
    stranger.navigate(portal.url + "/main/runs");
    assertThat(stranger.getByText("that you may see").first()).isVisible();

    owner.navigate(portal.url + "/main/members");
    Browsing.isAccessible(owner);
    owner.getByLabel("Everybody who signs in").click();
    assertThat(owner.getByLabel("Everybody who signs in")).isChecked();
    stranger.navigate(portal.url + "/projects");
    assertThat(link(stranger, "Main")).isVisible();
    owner.getByLabel("Role of carl").selectOption("reader");
    owner.reload();
    assertThat(owner.getByLabel("Role of carl")).hasValue("reader");
    owner
        .getByRole(AriaRole.ROW, new Page.GetByRoleOptions().setName(Pattern.compile("rita")))
        .getByRole(AriaRole.BUTTON)
        .click();
    assertThat(owner.getByLabel("Role of rita")).hasCount(0);

    owner.navigate(portal.url + "/account");
    assertThat(owner.getByText("here", new Page.GetByTextOptions().setExact(true))).isVisible();
    owner.getByLabel("Name, such as the machine").fill("laptop");
    owner.getByLabel("edit write notes").check();
    button(owner, "Make token").click();
    assertThat(owner.getByRole(AriaRole.STATUS).locator("code").first()).containsText("vine_~_");
    Browsing.isAccessible(owner);

    admin.navigate(portal.url + "/people");
    admin
        .getByRole(AriaRole.ROW, new Page.GetByRoleOptions().setName(Pattern.compile("^carl")))
        .getByText("Disable")
        .click();
    assertThat(admin.getByText("Let in again")).isVisible();
    contributor.navigate(portal.url + "/projects");
    assertThat(contributor).hasURL(Pattern.compile(".*/sign-in.*"));
    admin.navigate(portal.url + "/operations");
    assertThat(admin.getByText("What runs, what waits")).isVisible();
    Browsing.isAccessible(admin);
  }
}
