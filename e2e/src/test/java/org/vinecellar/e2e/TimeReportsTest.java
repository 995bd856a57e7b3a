package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipFile;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Reports as they are read, taken along and shaped. */
@OnSharedPortal
class TimeReportsTest {
  private static final String STREAM = "reports/nightly";
  private static final String ONLY = "stream eq \"" + STREAM + "\"";
  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private Shell.Result vine(String... words) {
    List<String> all = new ArrayList<>(List.of(Shell.ROOT + "/vine"));
    all.addAll(List.of(words));
    return Shell.run(
        work, Map.of("VINE_URL", portal.url, "VINE_TOKEN", portal.token, "NO_COLOR", "1"), all);
  }

  private void push() throws IOException {
    String bad = "<img src=x onerror=alert(1)> =1+1";
    for (int day = 4; day >= 1; day--) {
      String failure =
          day % 2 == 0
              ? "<failure type='org.skerrow.TideError' message='too low'/>"
              : "<error type='org.skerrow.NoPierError' message='none'/>";
      Files.writeString(
          work.resolve("r.xml"),
          "<testsuite name='tides'><testcase name='ebbs' time='"
              + day
              + "'/><testcase name='"
              + bad.replace("<", "&lt;")
              + "' time='2'>"
              + failure
              + "</testcase><system-out>"
              + day
              + "</system-out></testsuite>");
      Instant at = Instant.now().truncatedTo(ChronoUnit.SECONDS).minus(day, ChronoUnit.DAYS);
      assertThat(
              vine("push", "r.xml", "--stream", STREAM, "--at", at.toString(), "--label", "env=e1")
                  .code())
          .isZero();
    }
  }

  @Test
  void aReportIsReadTakenAlongAndShaped() throws IOException {
    push();
    String words = vine("report", "tests", "--filter", ONLY, "--days", "10").out();
    assertThat(words).containsPattern("ebbs +4 +0 +0 +100.0 % +2.50 s");
    assertThat(words).contains("NoPierError × 2, TideError × 2");
    assertThat(vine("report", "--filter", ONLY).out()).containsPattern("red +4 +0");
    String csv = vine("report", "tests", "--filter", ONLY, "--format", "csv").out();
    assertThat(csv).startsWith("test,suite,results,passed").contains("<img src=x");
    String types =
        vine("report", "tests", "--filter", ONLY, "--format", "csv", "--table", "types").out();
    assertThat(types).contains("org.skerrow.TideError,2,1,2");

    assertThat(vine("report", "breakdown", "--filter", ONLY, "--out", "b.xlsx").code()).isZero();
    try (ZipFile zip = new ZipFile(work.resolve("b.xlsx").toFile())) {
      String book =
          new String(
              zip.getInputStream(zip.getEntry("xl/workbook.xml")).readAllBytes(),
              StandardCharsets.UTF_8);
      assertThat(book).contains("Side by side").contains("Pass rate of each stream");
    }
    String tests = "/api/v1/projects/main/reports/tests?days=10&rows=";
    assertThat(portal.send("GET", tests + "1", portal.token).body()).contains("\"left\":-1");
    assertThat(portal.send("GET", tests + "201", portal.token).statusCode()).isEqualTo(400);
    Files.writeString(
        work.resolve("own.mustache"),
        "{{title}}{{#tests}}{{#rows}}\n<b>{{test}}</b> {{results}} {{words.rate}}{{/rows}}{{/tests}}\n");
    assertThat(
            vine(
                    "report",
                    "tests",
                    "--filter",
                    ONLY,
                    "--template",
                    "own.mustache",
                    "--escape",
                    "html")
                .out())
        .isEqualTo(
            "Test by test\n<b>&lt;img src=x onerror=alert(1)&gt; =1+1</b> 4 0 %\n<b>ebbs</b> 4 100 %\n");
    // Of its own stream alone: what others sent here is no page that a check gets through.
    for (String kind : List.of("summary", "tests", "people")) {
      assertThat(vine("report", kind, "--filter", ONLY, "--out", kind + ".html").code()).isZero();
    }
    assertThat(vine("report", "--filter", ONLY, "--out", "page.html").err()).contains("wrote page");
    isAPageOfItsOwn();
  }

  /**
   * It is opened from the disk, asks nobody for anything, runs nothing, and leads to the portal.
   */
  private void isAPageOfItsOwn() {
    try (Browsing browsing = new Browsing()) {
      Page page =
          browsing.signedIn(
              portal, "/main/reports?filter=" + URLEncoder.encode(ONLY, StandardCharsets.UTF_8));
      assertThat(page.getByRole(AriaRole.HEADING, heading("In all"))).isVisible();
      Browsing.isAccessible(page);
      Locator failed = page.getByRole(AriaRole.ROW).filter(has("Red runs")).getByText("4").first();
      failed.click();
      assertThat(page.getByText("4 runs").first()).isVisible();
      List<String> asked = new ArrayList<>();
      page.onRequest(request -> asked.add(request.url()));
      for (String name : List.of("page", "summary", "tests", "people")) {
        page.navigate(work.resolve(name + ".html").toUri().toString());
        assertThat(page.getByRole(AriaRole.HEADING).first()).isVisible();
        Browsing.isAccessible(page);
      }
      assertThat(asked).allMatch(url -> url.startsWith("file:"));
      page.navigate(work.resolve("page.html").toUri().toString());
      page.getByRole(AriaRole.ROW).filter(has("Errored")).getByText("2").first().click();
      assertThat(page.getByText("2 results").first()).isVisible();
      browsing.noErrors();
    }
  }

  private static Page.GetByRoleOptions heading(String name) {
    return new Page.GetByRoleOptions().setName(name).setExact(true);
  }

  private static Locator.FilterOptions has(String text) {
    return new Locator.FilterOptions().setHasText(text);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "report nothing | there is no report “nothing”; there are summary, tests",
        "report --days 0 | days is 0",
        "report --days 9999 | days is 9999",
        "report --from yesterday | write a day as in",
        "report --to 2026-11-01 | say from which day on",
        "report --from 2026-11-02 --to 2026-11-01 | before it begins",
        "report --days 3 --from 2026-11-01 | not both",
        "report --by stream | --by goes with the report breakdown",
        "report breakdown --by moon | not by “moon”",
        "report --filter nonsense | the filter ends here",
        "report --format xlsx | say --out FILE",
        "report --out report | tells no format",
        "report --format md --table streams | --table goes with --format csv",
        "report --format csv --table moon | has no table “moon”",
        "report --template none.txt | none.txt cannot be read",
        "report --escape html | --escape goes with --template",
      })
  void mistakesAreSaid(String words, String said) {
    Shell.Result result = vine(words.split(" "));
    assertThat(result.err()).contains(said);
    assertThat(result.code()).isNotZero();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{{moon}} | names “moon” in line 1",
        "{{#streams}} | missing close tag",
        "{{> /etc/passwd}} | takes in another one",
        "{{streams}} | writes a table out as if that were a word",
        "{{{streams}}} | writes a table out as if that were a word",
        "{{title.class.classLoader}} | nothing of that name",
        "{{#tables}}{{#tables}}{{#tables}}{{#tables}}{{#tables}}{{#tables}}{{#tables}}{{#tables}}{{#tables}}x{{/tables}}{{/tables}}{{/tables}}{{/tables}}{{/tables}}{{/tables}}{{/tables}}{{/tables}}{{/tables}}"
            + " | goes through more than",
      })
  void aTemplateCannotDoHarm(String template, String said) throws IOException {
    Files.writeString(work.resolve("t"), template);
    Shell.Result result = vine("report", "--template", "t");
    assertThat(result.err()).containsIgnoringCase(said);
    assertThat(result.code()).isNotZero();
  }
}
