package org.vinecellar.client.output;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What people read, for answers of the portal as JSON. */
class PrintersTest {
  private final StringWriter out = new StringWriter();
  private final StringWriter err = new StringWriter();

  private Terminal terminal(boolean person, Map<String, String> environment) {
    return new Terminal(
        new PrintWriter(out, true), new PrintWriter(err, true), person, environment);
  }

  private final Terminal plain = terminal(false, Map.of());

  private static JsonNode json(String text) {
    try {
      return new ObjectMapper().readTree(text.replace('\'', '"'));
    } catch (JsonProcessingException e) {
      throw new AssertionError(e);
    }
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{'passed':412,'failed':3,'errored':1,'skipped':8} | 3 failed, 1 errored, 412 passed, 8 skipped",
        "{'notReached':2} | 2 not reached",
        "{'passed':0} | no tests",
      })
  void counts(String counts, String phrase) {
    assertThat(Phrases.counts(plain, json(counts))).isEqualTo(phrase);
  }

  @ParameterizedTest
  @CsvSource({
    "0.4, 0 ms",
    "999, 999 ms",
    "1500, 1.5 s",
    "61000, 1 min 01 s",
    "3720000, 1 h 02 min"
  })
  void durations(double ms, String phrase) {
    assertThat(Phrases.duration(ms)).isEqualTo(phrase);
  }

  @Test
  void theReceiptNamesProblemsBesideAndChangesBelow() {
    new ReceiptPrinter(plain)
        .print(
            json(
                "{'stream':'a/b','number':7,'duplicate':false,'open':true,'url':'http://x/7',"
                    + "'part':{'tests':2,'passed':2},'run':{'tests':9,'passed':8,'failed':1},"
                    + "'changes':{'fixed':1},'files':[{'file':'f.xml','problems':['odd time']}],"
                    + "'failing':[{'outcome':'failed','change':'new failing','suite':['Quay'],"
                    + "'name':'boards','firstLine':'late'}],'notice':'this begins run #7'}"));

    assertThat(out.toString())
        .isEqualTo(
            "a/b#7  2 passed (2 tests in 1 file)\n  with the parts before it: 1 failed, 8 passed\n"
                + "  1 fixed\n  ◆ failed   Quay › boards  (new)\n             late\n"
                + "  open: it takes more parts, until it has as many as it expects, is closed, or hears"
                + " nothing for a while\n  http://x/7\n");
    assertThat(err.toString()).isEqualTo("vine: this begins run #7\nvine: f.xml: odd time\n");
  }

  @Test
  void aRunTellsHowManyFailingTestsItLeavesOut() {
    JsonNode run =
        json(
            "{'stream':'a/b','number':7,'counts':{'failed':2,'errored':1},'changes':{},"
                + "'startedAt':'2026-11-20T03:00:00Z','testTimeMs':10,'overruled':2,"
                + "'labels':{'team':'fares'},'tags':['storm'],'description':'The quay\\nwas shut'}");
    String look =
        "'failing':[{'id':'1-4','suite':['S','T'],'name':'t','parameters':'[1]',"
            + "'outcome':'errored','change':'new failing','firstLine':'broken'},"
            + "{'id':'1-5','name':'u','outcome':'failed','since':3,'orLonger':true}],"
            + "'parts':[{'name':'linux','brokenOff':true},{'name':'mac'}],'suites':[{'name':'A',"
            + "'counts':{'passed':4}},{'name':'S','counts':{'failed':1,'errored':1}}],'lastGreen':";
    String other = "{'number':2,'startedAt':'2026-11-18T03:00:00Z'}";
    new RunPrinter(plain).run(json("{'run':" + run + "," + look + other + "}"));
    String openRun = "{'stream':'a/b','number':8,'open':true,'counts':{'failed':2},'branch':'x'}";
    new RunPrinter(plain).run(json("{'run':" + openRun + "," + look + "null}"));

    assertThat(out.toString())
        .contains("  nothing changed, 2 overruled\n")
        .contains("  team=fares  storm\n  │ The quay\n  │ was shut\n")
        .contains("▲ errored  T › t[1]  (new)  1-4\n           broken\n")
        .contains("◆ failed   u  (since #3 or longer)  1-5\n")
        .contains("  broken off: “linux” ended before its time; what was to come is not known\n")
        .contains("  last green: #2, 2026-11-18 03:00 UTC\n")
        .contains("\n\n  S  1 failed, 1 errored\n  nothing failed in the 1 other suite\n\n")
        .contains("… and 1 more; --limit shows more of them\n")
        .contains("  open with 2 parts: others may still come\n")
        .contains("  no green run on x before it\n");
  }

  @Test
  void aNoteTellsWhoChangedWhat() {
    new NotePrinter(plain)
        .print(
            "a/b#7",
            json("{'description':null,'labels':{'team':'fares'},'tags':[]}"),
            json(
                "[{'at':'2026-11-20T03:00:00Z','by':'lead','field':'label team','before':null,"
                    + "'after':'fares'},{'at':'2026-11-20T02:00:00Z','by':'lead',"
                    + "'field':'outcome','result':'1-4','resultName':'t','before':'failed','after':'passed',"
                    + "'reason':'the quay was shut'}]"));

    assertThat(out.toString())
        .isEqualTo(
            "a/b#7\n  team=fares\n  2026-11-20 03:00 UTC  lead  label team: none → fares\n"
                + "  2026-11-20 02:00 UTC  lead  outcome of t: failed → passed  (the quay was shut)\n");
  }

  @Test
  void namesCannotSteerTheTerminal() {
    assertThat(Terminal.clean("a\u001B]0;title\u0007b\r\nc\u202Ed"))
        .isEqualTo("a\uFFFD]0;title\uFFFDb\uFFFD\uFFFDc\uFFFDd");
    plain.error("bad \u001B[2J name");
    assertThat(err.toString()).isEqualTo("vine: bad \uFFFD[2J name\n");
  }

  @ParameterizedTest
  @CsvSource({"true, X, true", "true, NO_COLOR, false", "false, X, false"})
  void colourIsForPeopleWhoWantIt(boolean person, String variable, boolean colour) {
    assertThat(terminal(person, Map.of(variable, "1")).colour()).isEqualTo(colour);
  }
}
