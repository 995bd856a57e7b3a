package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.microsoft.playwright.Page;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Tests may fail for a while: promised in the console or by the command, kept apart in a pipeline.
 */
@OnSharedPortal
class QuarantineTest {
  private static final String STREAM = "quarantine/nightly";
  private static final int FAILING = 10;
  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private Shell.Result vine(int code, String... words) {
    List<String> command = new ArrayList<>(List.of(Shell.ROOT + "/vine"));
    command.addAll(List.of(words));
    Shell.Result result =
        Shell.run(work, Map.of("VINE_URL", portal.url, "VINE_TOKEN", portal.token), command);
    assertThat(result.code()).as(result.err()).isEqualTo(code);
    return result;
  }

  private static String day(int days) {
    return LocalDate.now(ZoneOffset.UTC).plusDays(days).toString();
  }

  private String push(int code, int run) throws IOException {
    Files.writeString(
        work.resolve("r.xml"),
        "<testsuite name='quay'><testcase classname='org.skerrow.GateTest' name='opensAtDusk'>"
            + "<failure message='still shut "
            + run
            + "'/></testcase>"
            + "<testcase classname='org.skerrow.GateTest' name='shutsAtDawn'>"
            + (run < 3 ? "" : "<failure message='left open " + run + "'/>")
            + "</testcase></testsuite>");
    return vine(code, "push", "r.xml", "--stream", STREAM, "--fail-on", "failing").out();
  }

  private JsonNode listed() {
    return Portal.json(vine(0, "quarantine", "list", "--stream", STREAM, "--json").out());
  }

  @Test
  void failuresInItFailNoGate() throws IOException {
    push(FAILING, 1);
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, "/main/runs/" + STREAM + "/1");
      assertThat(page.getByText("history", new Page.GetByTextOptions().setExact(true))).isVisible();
      page.keyboard().press("h");
      assertThat(page.getByText("Put into quarantine")).isVisible();
      page.keyboard().press("q");
      page.getByLabel("Reason").fill("the light sensor is being replaced");
      page.getByLabel("Who sees to it").fill("moorings");
      page.getByLabel("Last day").fill(day(2));
      Browsing.isAccessible(page);
      page.keyboard().press("Enter");
      assertThat(page.getByText("In quarantine", new Page.GetByTextOptions().setExact(true)))
          .isVisible();
      assertThat(page.getByText("no run has had it since")).isVisible();
      Browsing.isAccessible(page);
    }
    assertThat(push(0, 2)).contains("1 of 1 failure is in quarantine");
    assertThat(push(FAILING, 3)).contains("1 of 2 failures is in quarantine");
    JsonNode one = listed().path(0);
    assertThat(one.path("standing").asText()).isEqualTo("ending");
    assertThat(one.path("owner").asText()).isEqualTo("moorings");
    assertThat(one.path("failed").asInt()).isEqualTo(2);
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, "/main/runs/" + STREAM + "/3");
      page.getByText("1 of them in quarantine").click();
      assertThat(page.getByText("still shut 3").first()).isVisible();
      assertThat(page.getByText("left open 3")).isHidden();
      page.navigate(portal.url + "/main/today");
      assertThat(page.getByText("moorings: failed in 2 of 2 runs since")).isVisible();
      Browsing.isAccessible(page);
      page.navigate(
          portal.url + "/main/tests?show=quarantine&stream=" + STREAM.replace("/", "%2F"));
      assertThat(page.getByText("1 in quarantine")).isVisible();
      page.keyboard().press("j");
      page.getByText("Change or prolong").click();
      page.getByText("30 days").click();
      page.getByText("Keep these").click();
      assertThat(page.getByText("until " + day(30)).first()).isVisible();
      Browsing.isAccessible(page);
    }
    assertThat(vine(0, "quarantine", "tests", "--stream", STREAM).out())
        .isEqualTo("org.skerrow.GateTest#opensAtDusk\n");
    assertThat(vine(0, "quarantine", "arguments", "--runner", "maven", "--stream", STREAM).out())
        .isEqualTo(
            "-Dtest=!org.skerrow.GateTest#opensAtDusk\n-Dsurefire.failIfNoSpecifiedTests=false\n");
    wrongCallsChangeNothing();
    String id = one.path("id").asText();
    vine(0, "quarantine", "change", id, "--ticket", "QY-12");
    assertThat(vine(0, "quarantine", "list", "--stream", STREAM).out())
        .contains("(QY-12)", "until " + day(30));
    vine(0, "quarantine", "end", id);
    assertThat(push(FAILING, 4)).doesNotContain("in quarantine");
    assertThat(vine(0, "quarantine", "list", "--ended", "--stream", STREAM).out())
        .contains("ended by", "failed in 2 of 2 runs");
  }

  private void wrongCallsChangeNothing() {
    String[] terms = {"--owner", "a", "--reason", "b", "--until", day(3)};
    assertThat(add(2, terms).err()).contains("either by name, or by --filter");
    assertThat(add(2, with(terms, "x#y")).err()).contains("--stream");
    assertThat(add(3, with(terms, "x#y", "--stream", STREAM)).err())
        .contains("has a test “x#y”; write it as its suite and its name");
    assertThat(add(3, with(terms, "opensAtDusk", "--stream", STREAM)).err())
        .contains("there is “org.skerrow.GateTest#opensAtDusk”");
    assertThat(add(3, with(terms, "x#y", "--stream", "quarantine/none")).err())
        .contains("there is no stream “quarantine/none” with a run");
    assertThat(add(5, with(terms, "--filter", "name eq \"nobody\"")).err())
        .contains("no test fits");
    assertThat(add(5, with(terms, "--filter", "nam eq 1")).err()).contains("nam");
    assertThat(
            add(5, "--owner", "a", "--reason", "b", "--until", day(-1), "--filter", "name pr")
                .err())
        .contains("is over");
    assertThat(
            add(5, "--owner", "a", "--reason", "b", "--until", "soon", "--filter", "name pr").err())
        .contains("it takes a day");
    assertThat(add(0, with(terms, "--filter", "name eq \"shutsAtDawn\"", "--trial")).out())
        .contains("it would be 1 test", "shutsAtDawn");
    assertThat(vine(0, "quarantine", "tests", "--stream", "quay/nowhere").err())
        .contains("there is no stream “quay/nowhere” with a run");
    assertThat(vine(5, "quarantine", "arguments", "--runner", "nose").err())
        .contains("there are maven");
    assertThat(vine(5, "quarantine", "end", "999999").err()).contains("no quarantine 999999");
    assertThat(listed()).hasSize(1);
  }

  private Shell.Result add(int code, String... words) {
    return vine(code, with(words, "quarantine", "add"));
  }

  /** The latter ones first. */
  private static String[] with(String[] words, String... before) {
    List<String> all = new ArrayList<>(List.of(before));
    all.addAll(List.of(words));
    return all.toArray(String[]::new);
  }
}
