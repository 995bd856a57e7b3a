package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.KeyboardModifier;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The console in a real browser, with the keyboard and for a screen reader too. */
@OnSharedPortal
class ConsoleTest {
  private static Browsing browsing;
  private static @TempDir Path work;

  private final Portal portal = Portal.shared();
  private BrowserContext context;
  private Page page;

  @BeforeAll
  static void openBrowser() {
    browsing = new Browsing();
  }

  @AfterAll
  static void closeBrowser() {
    browsing.close();
  }

  @BeforeEach
  void signIn() {
    page = browsing.signedIn(portal, "/main/runs");
    context = page.context();
  }

  @AfterEach
  void noErrors() {
    context.close();
    browsing.noErrors();
  }

  private void push(String stream, String xml, String... more) {
    try {
      Path file = Files.writeString(Files.createTempFile(work, "r", ".xml"), xml);
      List<String> words = new ArrayList<>(List.of("push", file.toString(), "--stream", stream));
      words.addAll(List.of(more));
      Shell.Result result = portal.vine(work, words.toArray(String[]::new));
      assertThat(result.code()).as(result.err()).isZero();
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
  }

  private Locator results() {
    return page.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("List of results"));
  }

  private Locator panel() {
    return page.getByRole(
        AriaRole.REGION, new Page.GetByRoleOptions().setName("Result").setExact(true));
  }

  private void isAccessible() {
    Browsing.isAccessible(page);
  }

  @Test
  void aRunIsReadFromTheListToTheTrace() {
    String trace =
        "org.opentest4j.AssertionFailedError: wrong\\n".replace("\\n", "\n")
            + "\tat org.junit.jupiter.api.Assertions.fail(Assertions.java:1)\n"
            + "\tat org.skerrow.FareTest.adds(FareTest.java:12)";
    push(
        "console/run",
        "<testsuite name='org.skerrow.FareTest'><testcase name='first'/><testcase name='adds'/></testsuite>");
    push(
        "console/run",
        "<testsuite name='org.skerrow.FareTest'><testcase name='first'/><testcase name='adds'>"
            + "<failure message='expected: &lt;4&gt; but was: &lt;5&gt;' type='AssertionFailedError'>"
            + trace
            + "</failure><system-out>&#27;[31mred&#27;[0m &lt;b&gt;bold?&lt;/b&gt;</system-out></testcase></testsuite>");
    page.navigate(portal.url + "/main/runs?stream=console%2Frun");
    assertThat(page.getByRole(AriaRole.TABLE)).containsText("#2");
    isAccessible();
    page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("#2").setExact(true))
        .first()
        .click();

    assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1)))
        .hasText("console/run #2");
    assertThat(results().getByRole(AriaRole.LINK).first()).containsText("adds");
    assertThat(panel()).containsText("new failing");
    assertThat(panel().locator("dd").first()).hasText("4");
    assertThat(panel()).containsText("last passed in #1");
    assertThat(panel()).containsText("… 1 framework frame");
    assertThat(panel().locator(".ansi-red-fg")).hasText("red");
    assertThat(panel()).containsText("<b>bold?</b>");
    isAccessible();

    page.keyboard().press("j");
    assertThat(page).hasURL(Pattern.compile("result=1-0"));
    page.keyboard().press("/");
    page.keyboard().type("adds");
    assertThat(results().getByRole(AriaRole.LINK)).hasCount(1);
    // Escape would clear the field, and after a pause the address: a race with the reload.
    assertThat(page).hasURL(Pattern.compile("filter=text.*adds"));
    page.reload();
    assertThat(page.getByLabel("Filter by name, suite or message")).hasValue("adds");
    page.getByLabel("Filter by name, suite or message").fill("");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Suites")).click();
    assertThat(
            page.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("Suites"))
                .getByText("adds"))
        .isVisible();
    page.keyboard().press("?");
    assertThat(page.getByRole(AriaRole.DIALOG)).isVisible();
  }

  @Test
  void aResultIsLookedIntoAndHeldAgainstOthers() {
    String once =
        "<testsuite name='Gangway'><testcase name='opens'/><testcase name='closes'>"
            + "<failure message='berth 3'/></testcase></testsuite>";
    push("console/inside", once);
    push(
        "console/inside",
        "<testsuite name='Gangway'><testcase name='opens'><failure message='gangway stuck'>at"
            + " org.junit.A\n</failure><system-out>INFO gangway\n"
            + "WARN asks again\n".repeat(200)
            + "ERROR no answer of the gangway</system-out></testcase>"
            + "<testcase name='closes'><failure message='berth 3'/></testcase></testsuite>");
    page.navigate(portal.url + "/main/runs/console/inside/2?filter=name+eq+%22opens%22");
    assertThat(panel()).containsText("this line 200 times");
    panel()
        .getByRole(
            AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("1 error").setExact(true))
        .click();
    assertThat(panel()).containsText("1 of 202 lines");
    assertThat(page).hasURL(Pattern.compile("levels="));
    page.keyboard().press("f");
    page.keyboard().type("gangway");
    assertThat(page.getByRole(AriaRole.SEARCH)).containsText("1 of 3");
    page.keyboard().press("Shift+Enter");
    assertThat(page.getByRole(AriaRole.SEARCH)).containsText("3 of 3");
    isAccessible();

    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Pin")).click();
    Locator pinned =
        page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Pinned result"));
    assertThat(pinned).containsText("pinned from console/inside #2");
    page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Run 1: passed"))
        .last()
        .click();
    assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1)))
        .hasText("console/inside #1");
    assertThat(panel()).containsText("passed");
    assertThat(pinned).containsText("gangway stuck");
    isAccessible();

    // A row is a link: with Control it opens in a tab of its own, beside the same pinned one.
    Page tab =
        context.waitForPage(
            () ->
                results()
                    .getByRole(
                        AriaRole.LINK,
                        new Locator.GetByRoleOptions().setName(Pattern.compile("closes")))
                    .click(
                        new Locator.ClickOptions()
                            .setModifiers(List.of(KeyboardModifier.CONTROL))));
    assertThat(tab.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Pinned")))
        .containsText("gangway stuck");
    assertThat(panel()).containsText("opens");
    page.keyboard().press("p");
    assertThat(pinned).hasCount(0);
  }

  @Test
  void anOwnerDeletesARunAndAStream() {
    for (String test : List.of("a", "b")) {
      push(
          "console/goes",
          "<testsuite name='S'><testcase name='" + test + "'><failure/></testcase></testsuite>");
    }
    page.navigate(portal.url + "/main/runs/console/goes/2");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("delete")).click();
    Locator dialog = page.getByRole(AriaRole.DIALOG);
    assertThat(dialog).containsText("Its 1 result");
    Locator forGood =
        dialog.getByRole(
            AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Delete for good"));
    assertThat(forGood).isDisabled();
    isAccessible();
    dialog.getByRole(AriaRole.TEXTBOX).fill("#2");
    forGood.click();
    assertThat(page).hasURL(Pattern.compile("stream=console%2Fgoes"));
    Locator stream =
        page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Stream console/goes"));
    assertThat(stream).containsText("1 run");
    assertThat(stream.getByRole(AriaRole.TABLE)).not().containsText("#2");

    stream.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("delete")).click();
    dialog.getByRole(AriaRole.TEXTBOX).fill("console/goes");
    forGood.click();
    assertThat(page).not().hasURL(Pattern.compile("goes"));
    assertThat(page.getByText("console/goes")).hasCount(0);
  }

  @Test
  void theDarkThemeAndTheNarrowPageAreAccessibleToo() {
    push(
        "console/dark",
        "<testsuite name='s'><testcase name='a'><error message='broken'/></testcase><testcase name='b'><skipped/></testcase></testsuite>");
    page.navigate(portal.url + "/main/runs/console/dark/1");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Dark theme")).click();
    page.setViewportSize(800, 900);
    assertThat(panel()).containsText("broken");
    isAccessible();
    assertThat((Boolean) page.evaluate("document.documentElement.scrollWidth <= innerWidth"))
        .as("nothing sticks out at the side")
        .isTrue();
  }

  @Test
  void textFromFilesIsNeverMarkup() {
    String evil =
        "&lt;img src=x onerror=&quot;window.stolen=1&quot;&gt;&lt;script&gt;window.stolen=1&lt;/script&gt;";
    push(
        "console/evil",
        "<testsuite name='"
            + evil
            + "'><properties><property name='"
            + evil
            + "' value='"
            + evil
            + "'/></properties>"
            + "<testcase name='"
            + evil
            + "'><failure message='"
            + evil
            + "' type='"
            + evil
            + "'>"
            + evil
            + "</failure><system-out>"
            + evil
            + "</system-out></testcase></testsuite>",
        "--branch",
        "<script>window.stolen=1</script>");
    page.navigate(portal.url + "/main/runs/console/evil/1");

    assertThat(panel()).containsText("<script>window.stolen=1</script>");
    page.getByText("1 part, environment").click();
    assertThat(page.evaluate("window.stolen === undefined")).isEqualTo(true);
  }

  @Test
  void anOpenRunFillsInWithoutAReload() {
    push(
        "console/live",
        "<testsuite name='s'><testcase name='early'/></testsuite>",
        "--run",
        "7",
        "--part",
        "one");
    page.navigate(portal.url + "/main/runs/console/live/1");
    assertThat(page.getByText("open, results may still come")).isVisible();
    page.evaluate("window.stayed = true");

    push(
        "console/live",
        "<testsuite name='t'><testcase name='late'><failure message='oh'/></testcase></testsuite>",
        "--run",
        "7",
        "--part",
        "two",
        "--expect-parts",
        "2");

    assertThat(results()).containsText("late");
    assertThat(page.getByText("open, results may still come")).isHidden();
    assertThat(page.getByText("2 parts: one, two")).isVisible();
    assertThat(page.evaluate("window.stayed")).isEqualTo(true);
  }

  @Test
  void aPipelineIsConnectedFromNothingToItsFirstRun() {
    page.navigate(portal.url + "/main/connect");
    Locator stream = page.getByLabel("Stream, such as booking-api/nightly");
    stream.fill("connect me");
    assertThat(page.getByText("Make a token")).isDisabled();
    stream.fill("console/connected");
    page.getByText("Make a token").click();
    assertThat(page.getByText("Waiting for the first run of console/connected")).isVisible();
    assertThat(page.getByText("java -jar vine.jar push"))
        .containsText("--stream console/connected");
    page.getByRole(AriaRole.TAB, new Page.GetByRoleOptions().setName("curl")).click();
    assertThat(page.getByText("-F stream=console/connected")).containsText("Bearer vine_main_");

    push("console/connected", "<testsuite name='s'><testcase name='first'/></testsuite>");

    assertThat(page.getByText("Connected.")).isVisible();
    page.getByText("console/connected #1").click();
    assertThat(results()).containsText("first");
  }

  @Test
  void aLongRunIsScrolledWithoutDrawingAllOfIt() {
    StringBuilder xml = new StringBuilder("<testsuite name='s'>");
    for (int i = 0; i < 3000; i++) {
      xml.append("<testcase name='t").append(i).append("'/>");
    }
    push("console/long", xml.append("</testsuite>").toString());
    page.navigate(portal.url + "/main/runs/console/long/1");
    assertThat(results()).containsText("t0");
    // Each scroll to the end fetches more, until the end is the run's.
    page.waitForCondition(
        () -> {
          results().evaluate("list => list.scrollTo(0, 1e9)");
          return results().innerText().contains("t2999");
        });
    assertThat(results().locator("li").count()).isLessThan(80);
  }

  @Test
  void projectsAndTokensAreManaged() {
    page.navigate(portal.url + "/projects");
    page.getByLabel("Name").fill("Harbour Load");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Make project")).click();
    page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Harbour Load")).click();
    assertThat(page.getByText("No run has arrived yet")).isVisible();
    isAccessible();
    page.navigate(portal.url + "/harbour-load/tokens");
    page.getByLabel("Name, such as the pipeline that will use it").fill("soak");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Make token")).click();
    assertThat(page.getByText("Copy it now: it is not shown again.")).isVisible();
    isAccessible();
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Revoke")).click();
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Really revoke")).click();
    assertThat(page.getByText("revoked", new Page.GetByTextOptions().setExact(true))).isVisible();
  }

  @Test
  void aRunIsComparedWithOneThatIsChosen() {
    String before = "<testsuite name='fares'><testcase name='adds'/><testcase name='old'/>";
    String failing =
        "<testsuite name='fares'><testcase name='adds'><failure message='oh'/></testcase>";
    push("console/compare", before + "</testsuite>");
    push("console/compare", failing + "<testcase name='old'/></testsuite>");
    push("console/compare", failing + "<testcase name='fresh'/></testsuite>");
    page.navigate(portal.url + "/main/runs/console/compare/3");
    assertThat(page.locator("header").last()).containsText("Since #2:");
    page.getByText("compare with another run").click();
    page.getByLabel("Run to compare with").selectOption("1");
    assertThat(page).hasURL(Pattern.compile("against=1"));
    Locator list = page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Results"));
    assertThat(list).containsText("passed in #1, failed now");
    assertThat(list).containsText("not there in #1, passed now");
    assertThat(list).containsText("passed in #1, not there now");
    isAccessible();
    page.reload();
    assertThat(list).containsText("1 gone");
    list.getByText("fresh").click();
    assertThat(panel()).containsText("fresh");
    page.getByText("with the run before").click();
    assertThat(page.locator("header").last()).containsText("Since #2:");
  }

  @Test
  void theSuiteTreeIsFilteredToo() {
    push(
        "console/tree",
        "<testsuites><testsuite name='fares'><testcase name='adds'><failure message='oh'/></testcase>"
            + "<testcase name='rounds'/></testsuite><testsuite name='sailings'>"
            + "<testcase name='finds'/></testsuite><testcase name='loose'/></testsuites>");
    page.navigate(portal.url + "/main/runs/console/tree/1?view=suites");
    Locator tree = page.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("Suites"));
    assertThat(tree).containsText("fares");
    assertThat(tree).containsText("sailings");
    assertThat(tree).containsText("loose");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("1 failed").setExact(true))
        .click();
    assertThat(tree).not().containsText("sailings");
    assertThat(tree).not().containsText("rounds");
    assertThat(tree).containsText("adds");
    isAccessible();
    page.getByLabel("Filter by name, suite or message").fill("nothing like it");
    assertThat(tree).containsText("No result fits");
  }

  @Test
  void aFilterIsWrittenWithHelp() {
    push(
        "console/filters",
        "<testsuites><testsuite name='fares'><testcase name='adds' time='3'><failure message='oh'/>"
            + "</testcase><testcase name='rounds' time='1'><failure message='no'/></testcase>"
            + "<testcase name='sells' time='4'/></testsuite></testsuites>");
    page.navigate(portal.url + "/main/runs/console/filters/1");
    assertThat(results().getByRole(AriaRole.LINK)).hasCount(3);
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Filter")).click();
    Locator box = page.getByLabel("Filter of results");
    box.click();
    page.keyboard().type("out");
    assertThat(page.getByRole(AriaRole.OPTION)).hasText(Pattern.compile("outcome.*"));
    page.keyboard().press("ArrowDown");
    page.keyboard().press("Enter");
    page.keyboard().type("eq \"fai");
    assertThat(page.getByRole(AriaRole.OPTION)).hasText("\"failed\"");
    isAccessible();
    page.keyboard().press("ArrowDown");
    page.keyboard().press("Tab");
    page.keyboard().type("and duration gt 2");
    page.keyboard().press("Escape");
    assertThat(results().getByRole(AriaRole.LINK)).hasCount(1);
    assertThat(results()).containsText("adds");
    assertThat(page).hasURL(Pattern.compile("filter=outcome.*duration"));
    Locator failed =
        page.getByRole(
            AriaRole.BUTTON, new Page.GetByRoleOptions().setName("2 failed").setExact(true));
    assertThat(failed).hasAttribute("aria-pressed", "true");
    failed.click();
    assertThat(box).hasValue("duration gt 2");
    assertThat(results().getByRole(AriaRole.LINK)).hasCount(2);
    page.reload();
    assertThat(box).hasValue("duration gt 2");
    box.fill("duration gt 2 and nmae pr");
    box.blur();
    assertThat(page.getByRole(AriaRole.ALERT)).containsText("did you mean “name”?");
    assertThat(box).hasAttribute("aria-invalid", "true");
    assertThat(results().getByRole(AriaRole.LINK)).hasCount(2);

    page.navigate(portal.url + "/main/runs?stream=console/filters&filter=failed+gt+5");
    assertThat(page.getByText("No run fits")).isVisible();
    page.getByLabel("Filter of runs").fill("failed gt 1");
    assertThat(page.getByRole(AriaRole.TABLE)).containsText("#1");
    isAccessible();
  }

  @Test
  void thePasswordFormSaysWhatIsWrong() {
    page.navigate(portal.url + "/main/runs");
    page.getByText(portal.user, new Page.GetByTextOptions().setExact(true)).click();
    page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Account")).click();
    page.getByLabel("Present password").fill("not it");
    page.getByLabel("New password", new Page.GetByLabelOptions().setExact(true))
        .fill("a longer password");
    page.getByLabel("New password again").fill("a longer passwort");
    assertThat(page.getByRole(AriaRole.ALERT)).hasText("The two new passwords are not the same.");
    page.getByLabel("New password again").fill("a longer password");
    page.keyboard().press("Enter");
    assertThat(page.getByRole(AriaRole.ALERT)).hasText("the present password is not right");
    isAccessible();
  }

  @Test
  void signingInLeadsOnOnlyWithinThePortal() {
    for (String to : List.of("javascript:window.stolen=1", "//evil.example", "/\\evil.example")) {
      String sent = "/sign-in?to=" + URLEncoder.encode(to, StandardCharsets.UTF_8);
      Page stranger = browsing.signedIn(portal, sent);
      // to the first project, whichever that is
      assertThat(stranger).hasURL(Pattern.compile("^http://127[.]0[.]0[.]1:\\d+/[a-z-]+/today$"));
      assertThat(stranger.evaluate("window.stolen === undefined")).isEqualTo(true);
      stranger.context().close();
    }
    Page stranger = browsing.signedIn(portal, "/main/tokens");
    assertThat(stranger).hasURL(portal.url + "/main/tokens");
    stranger.context().close();
  }

  @Test
  void whatIsNotThereIsSaid() {
    page.navigate(portal.url + "/main/runs/no/such/9");
    assertThat(page.getByRole(AriaRole.ALERT)).containsText("has no run 9");
    page.navigate(portal.url + "/nowhere/runs");
    assertThat(page.getByRole(AriaRole.ALERT)).containsText("there is no project “nowhere”");
  }
}
