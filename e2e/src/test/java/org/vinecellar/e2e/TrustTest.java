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
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Which tests can be believed: from a pipeline's files to the command, the API and the console. */
@OnSharedPortal
class TrustTest {
  private static final String STREAM = "trust/nightly";
  private static final int RENAMED = 11;
  private static final int SLOWER = 8;
  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  /**
   * As tests did in one run after another: + passed, F failed, r passed when tried again, o with
   * all.
   */
  private static final Map<String, String> TESTS =
      Map.of(
          "ringsTheBell", "+r++F++r+++r+F++",
          "opensTheRamp", "+++++++++++FFFFF",
          "countsTheCars", "++++++o+++++++++",
          "countsTheGuests", "++++++o+++++++++",
          "weighsTheLorries", "++++++o+++++++++",
          "readsTheTide", "++++++o+++++++++",
          "callsTheCrew", "++++++o+++++++++");

  private Shell.Result vine(String... words) {
    List<String> command = new ArrayList<>(List.of(Shell.ROOT + "/vine"));
    command.addAll(List.of(words));
    Shell.Result result =
        Shell.run(work, Map.of("VINE_URL", portal.url, "VINE_TOKEN", portal.token), command);
    assertThat(result.code()).as(result.err()).isZero();
    return result;
  }

  private void push(int run) throws IOException {
    StringBuilder xml = new StringBuilder("<testsuite name='quay'>");
    new TreeMap<>(TESTS)
        .forEach(
            (test, did) -> {
              String name =
                  test.equals("ringsTheBell") && run >= RENAMED
                      ? "ringsTheBellBeforeDeparture"
                      : test;
              xml.append(
                  "<testcase classname='org.skerrow.BellTest' name='"
                      + name
                      + "' time='"
                      + (test.equals("callsTheCrew") && run > SLOWER ? "3.0" : "1.0")
                      + run
                      + "'>");
              String own = "message='no sound of " + test + "'/>";
              switch (did.charAt(run - 1)) {
                case 'F' -> xml.append("<failure " + own);
                case 'r' -> xml.append("<flakyFailure " + own);
                case 'o' -> xml.append("<error message='Connection to db-quay:5432 refused'/>");
                default -> {}
              }
              xml.append("</testcase>");
            });
    Files.writeString(work.resolve("r.xml"), xml + "</testsuite>");
    vine(
        "push",
        "r.xml",
        "--stream",
        STREAM,
        "--run",
        "run-" + run,
        "--commit",
        "c" + run,
        "--at",
        Instant.parse("2026-09-01T03:00:00Z").plus(run, ChronoUnit.DAYS).toString(),
        "--label",
        "env=staging");
  }

  private Map<String, JsonNode> tests() {
    Map<String, JsonNode> tests = new TreeMap<>();
    vine("export", "tests", "--stream", STREAM, "--format", "ndjson")
        .out()
        .lines()
        .map(Portal::json)
        .forEach(line -> tests.put(line.path("test").asText().replaceAll(".*#", ""), line));
    return tests;
  }

  @Test
  void aTestIsKnownByWhatItDid() throws IOException {
    for (int run = 1; run <= 16; run++) {
      push(run);
    }
    Map<String, JsonNode> tests = tests();
    JsonNode bell = tests.get("ringsTheBellBeforeDeparture");
    assertThat(bell.path("verdict").asText()).isEqualTo("flaky");
    assertThat(bell.path("test").asText())
        .isEqualTo("org.skerrow.BellTest#ringsTheBellBeforeDeparture");
    assertThat(bell.path("runs").asInt()).isEqualTo(16);
    assertThat(bell.path("low").asDouble()).isLessThan(bell.path("rate").asDouble());
    assertThat(bell.path("since").asInt()).isEqualTo(2);
    assertThat(tests).doesNotContainKey("ringsTheBell").hasSize(TESTS.size());
    assertThat(tests.get("opensTheRamp").path("verdict").asText()).isEqualTo("broken");
    assertThat(tests.get("countsTheCars").path("verdict").asText()).isEqualTo("steady");
    JsonNode renamed =
        Portal.json(vine("export", "renames", "--stream", STREAM, "--format", "ndjson").out());
    assertThat(renamed.path("old").asText()).isEqualTo("org.skerrow.BellTest#ringsTheBell");
    assertThat(renamed.path("new").asText()).isEqualTo(bell.path("test").asText());
    assertThat(renamed.path("state").asText()).isEqualTo("joined");
    assertThat(renamed.path("run").asInt()).isEqualTo(RENAMED);
    assertThat(vine("flaky", "--stream", STREAM).out())
        .contains("ringsTheBellBeforeDeparture", "failed in 5 of 16 runs")
        .doesNotContain("opensTheRamp", "countsTheCars");
    // By the name that it had, too.
    assertThat(vine("history", "org.skerrow.BellTest#ringsTheBell", "--stream", STREAM).out())
        .contains("Fails by chance", "+ r + + F + + r + + + r + F + +", "#12 #8 #2");
    assertThat(vine("history", "org.skerrow.BellTest#opensTheRamp", "--stream", STREAM).out())
        .contains("Broken since #12; it last passed in #11");
    assertThat(vine("tests", "--by", "slowing", "--stream", STREAM).out())
        .contains("callsTheCrew", "slower since #9 by a factor of 2.9, from 1.0 s to 3.0 s")
        .doesNotContain("readsTheTide");
    assertThat(vine("tests", "--by", "failing", "--stream", STREAM).out())
        .contains("opensTheRamp", "failed in 5 of 16 runs");
    assertThat(vine("tests", "--by", "costly", "--stream", STREAM).out())
        .contains("ringsTheBellBeforeDeparture", "failed in 2 of 16 runs, alone in 1;")
        .doesNotContain("opensTheRamp");
    assertThat(vine("plan", "--stream", STREAM, "--parts", "2").out())
        .contains("s of tests in 2 parts", "7 tests in 1 suite");
    assertThat(vine("plan", "--stream", STREAM, "--parts", "2", "--part", "2", "--others").out())
        .isEqualTo("org.skerrow.BellTest\n");
    onThePage();
  }

  private void onThePage() throws IOException {
    try (Browsing browsing = new Browsing()) {
      Page page =
          browsing.signedIn(portal, "/main/runs/" + STREAM + "/16?filter=name+co+%22Bell%22");
      assertThat(page.getByText("ringsTheBellBeforeDeparture").first()).isVisible();
      assertThat(page.getByText("history", new Page.GetByTextOptions().setExact(true))).isVisible();
      page.keyboard().press("h");
      page.waitForURL(url -> url.contains("/main/tests?test="));
      assertThat(page.getByText("Fails by chance")).isVisible();
      assertThat(page.getByLabel("Run 12: passed, after a try that failed")).isVisible();
      assertThat(page.getByText("until #11: same words")).isVisible();
      assertThat(page.getByText("Called “ringsTheBellBeforeDeparture”, before")).isVisible();
      assertThat(page.getByText("Now and then failed in 1 run and").first()).isVisible();
      Browsing.isAccessible(page);
      page.getByText("these are two tests").click();
      assertThat(page.getByText("another test, as somebody said")).isVisible();
      assertThat(page.getByText("of the latest 6 runs")).isVisible();
      page.getByText("this is the same test").click();
      assertThat(page.getByText("of the latest 16 runs")).isVisible();
      page.navigate(portal.url + "/main/tests?show=broken&stream=" + STREAM.replace("/", "%2F"));
      assertThat(page.getByText("opensTheRamp")).isVisible();
      page.keyboard().press("j");
      assertThat(page.getByText("Broken since #12;")).isVisible();
      assertThat(page.getByText("between commits c11 and c12")).isVisible();
      Browsing.isAccessible(page);
      page.navigate(portal.url + "/main/tests?show=slowing&stream=" + STREAM.replace("/", "%2F"));
      assertThat(page.getByText("×2.9")).isVisible();
      page.keyboard().press("j");
      assertThat(page.getByText("Slower", new Page.GetByTextOptions().setExact(true)).last())
          .isVisible();
      Browsing.isAccessible(page);
      page.navigate(portal.url + "/main/runs/" + STREAM + "/16");
      page.getByText("what fails, by runs").click();
      assertThat(page.getByText("those that fail in #16, and the runs up to it")).isVisible();
      // Before there are tests, no key has a place to go to.
      assertThat(page.getByText("opensTheRamp")).isVisible();
      page.keyboard().press("j");
      assertThat(page.getByText("opensTheRamp failed")).isVisible();
      page.getByText("all tests").click();
      assertThat(page.getByText("ringsTheBellBeforeDeparture")).isVisible();
      Browsing.isAccessible(page);
      page.keyboard().press("h");
      assertThat(page.getByText("Broken since #12;")).isVisible();
      page.navigate(portal.url + "/main/tests?show=renamed&stream=" + STREAM.replace("/", "%2F"));
      assertThat(page.getByText("joined")).isVisible();
      Browsing.isAccessible(page);
      apart(page);
    }
  }

  /** What a review did is seen beside what the nights did, and each branch by itself. */
  private void apart(Page page) throws IOException {
    String review = STREAM + "-review";
    for (int run = 1; run <= 3; run++) {
      String branch = run < 3 ? "tide/7" : "crew/8";
      String said = "<system-out>" + branch + run + "</system-out></testsuite>";
      String file = Files.readString(work.resolve("r.xml"));
      Files.writeString(work.resolve("r.xml"), file.replace("</testsuite>", said));
      vine("push", "r.xml", "--stream", review, "--run", "review-" + run, "--branch", branch);
    }
    page.navigate(portal.url + "/main/tests?show=broken&stream=" + STREAM.replace("/", "%2F"));
    page.getByText("opensTheRamp").click();
    page.getByText("streams and branches apart").click();
    Locator theirs =
        page.getByLabel(review, new Page.GetByLabelOptions().setExact(true))
            .getByRole(AriaRole.LIST);
    assertThat(theirs).hasCount(2);
    assertThat(theirs.first().getByRole(AriaRole.LISTITEM)).hasCount(2);
    assertThat(page.getByText("other branches")).isVisible();
    Browsing.isAccessible(page);
    page.getByText("together", new Page.GetByTextOptions().setExact(true)).click();
    assertThat(page.getByText("of the latest 16 runs")).isVisible();
  }
}
