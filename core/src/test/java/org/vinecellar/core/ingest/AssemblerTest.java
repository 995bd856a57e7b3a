package org.vinecellar.core.ingest;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.attachments.AttachmentFiles;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.results.Variant;

/**
 * What cases of one name become: P passed, F failed, E errored, S skipped, T failed in its
 * teardown.
 */
class AssemblerTest {
  private static String cases(String letters) {
    return Arrays.stream(letters.split(""))
        .map(
            letter ->
                "<testcase name='t' time='1'>"
                    + switch (letter) {
                      case "F" -> "<failure message='f'/>";
                      case "E" -> "<error message='e'/>";
                      case "T" -> "<error message='failed on teardown with &quot;x&quot;'/>";
                      case "S" -> "<skipped message='s'/>";
                      default -> "";
                    }
                    + "</testcase>")
        .collect(Collectors.joining("", "<testsuite name='s'>", "</testsuite>"));
  }

  @ParameterizedTest
  @CsvSource({
    // cases in one file, its header's tests and failures; tests, passed, failed, errored, skipped,
    // retried
    "P,    ,  , 1, 1, 0, 0, 0, 0",
    // nothing tells: each counts
    "FP,   ,  , 2, 1, 1, 0, 0, 0",
    "PF,   ,  , 2, 1, 1, 0, 0, 0",
    "PP,   ,  , 2, 2, 0, 0, 0, 0",
    "FFF,  ,  , 3, 0, 3, 0, 0, 0",
    "FPPP, ,  , 4, 3, 1, 0, 0, 0",
    // the header counts each case
    "FP,   2, 1, 2, 1, 1, 0, 0, 0",
    "FFP,  3, 2, 3, 1, 2, 0, 0, 0",
    "PE,   2, 1, 2, 1, 0, 1, 0, 0",
    // it counts tests: these were tried again
    "FP,   1, 0, 1, 1, 0, 0, 0, 1",
    "FFP,  1, 0, 1, 1, 0, 0, 0, 1",
    "FFF,  1, 1, 1, 0, 1, 0, 0, 1",
    "PF,   1, 1, 1, 0, 1, 0, 0, 1",
    // its count of tests is off, that of failures tells
    "FP,   9, 1, 2, 1, 1, 0, 0, 0",
    "FP,   9, 0, 2, 1, 1, 0, 0, 0",
    // what was skipped and ran later
    "SP,   2, 0, 1, 1, 0, 0, 0, 1",
    "SF,   2, 1, 1, 0, 1, 0, 0, 1",
    "SS,   ,  , 2, 0, 0, 0, 2, 0",
    // of a teardown the case itself tells
    "PT,   2, 1, 1, 0, 0, 1, 0, 0",
    "FT,   1, 1, 1, 0, 1, 0, 0, 0",
    "PTPT, 4, 2, 2, 0, 0, 2, 0, 0",
  })
  void ofOneFile(
      String letters,
      @Nullable Integer promised,
      @Nullable Integer promisedFailing,
      int tests,
      int passed,
      int failed,
      int errored,
      int skipped,
      int retried) {
    String header =
        promised == null ? "" : " tests='" + promised + "' failures='" + promisedFailing + "'";
    String file = cases(letters).replace("<testsuite ", "<testsuite" + header + " ");
    var total = new Recording().read(file).total();

    assertThat(total.tests()).isEqualTo(tests);
    assertThat(total)
        .extracting(c -> c.passed(), c -> c.failed(), c -> c.errored(), c -> c.skipped())
        .containsExactly(passed, failed, errored, skipped);
    assertThat(total.retried()).isEqualTo(retried);
    assertThat(total.setUps()).isZero();
  }

  /** Two files of one upload: which failed first, where they lie, who wrote them. */
  @ParameterizedTest
  @CsvSource({
    "a/one.xml,            a/two.xml,            '',       2, 1, 1",
    "jdk17/TEST-Fare.xml,  jdk21/TEST-Fare.xml,  surefire, 2, 1, 1",
    "out/TEST-Inner.xml,   out/TEST-Fare.xml,    surefire, 1, 1, 0",
  })
  void ofTwoFiles(String one, String two, String schema, int tests, int passed, int failed) {
    String attribute = schema.isEmpty() ? "" : " noNamespaceSchemaLocation='surefire.xsd'";
    var report =
        UploadReader.read(
            List.of(source(one, cases("F"), attribute), source(two, cases("P"), attribute)),
            ReadLimits.DEFAULT,
            new Recording());
    assertThat(report.total())
        .extracting(c -> c.tests(), c -> c.passed(), c -> c.failed())
        .containsExactly(tests, passed, failed);
  }

  /** What stands in two directories is two tests, whatever came of it; a part of one is not. */
  @ParameterizedTest
  @CsvSource(
      nullValues = "-",
      value = {
        // where, cases of each, pattern; tests, passed, failed, skipped, retried, names
        "jdk17, jdk21, F, P, -,            2, 1, 1, 0, 0, t t#2",
        "jdk17, jdk21, P, F, -,            2, 1, 1, 0, 0, t t#2",
        "jdk17, jdk21, P, P, -,            2, 2, 0, 0, 0, t t#2",
        "jdk17, jdk21, S, P, -,            2, 1, 0, 1, 0, t t#2",
        "out,   out/x, P, P, -,            1, 1, 0, 0, 0, t",
        "jdk17, jdk21, F, FP, {jdk}/*.xml, 2, 1, 1, 0, 1, t{jdk=17} t{jdk=21}",
        "jdk17, jdk21, F, FP, -,           2, 1, 1, 0, 1, t t#2",
        "jdk17, jdk21, P, P, jdk{v}/*.xml, 2, 2, 0, 0, 0, t{v=17} t{v=21}",
      })
  void ofTwoDirectories(
      String one,
      String two,
      String first,
      String second,
      @Nullable String pattern,
      int tests,
      int passed,
      int failed,
      int skipped,
      int retried,
      String names) {
    Recording recording = new Recording();
    String once = second.equals("FP") ? " tests='1' failures='0'" : "";
    var total =
        UploadReader.read(
                List.of(
                    source(one + "/a.xml", cases(first), ""),
                    source(two + "/a.xml", cases(second), once)),
                ReadLimits.DEFAULT,
                new UploadReader.Hints(
                    CsvColumns.NONE,
                    Variant.NONE,
                    PathVariants.of(pattern == null ? List.of() : List.of(pattern)),
                    null,
                    null),
                new AttachmentFiles<>(),
                recording)
            .total();
    assertThat(total)
        .extracting(
            c -> c.tests(), c -> c.passed(), c -> c.failed(), c -> c.skipped(), c -> c.retried())
        .containsExactly(tests, passed, failed, skipped, retried);
    assertThat(recording.results)
        .extracting(
            result ->
                result.test().displayName()
                    + (result.test().variant().isNone()
                        ? ""
                        : result.test().variant().words().toString().replace("jdk=jdk", "jdk=")))
        .containsExactly(names.split(" "));
  }

  private static SourceFile source(String name, String cases, String attribute) {
    String text = cases.replace("<testsuite ", "<testsuite" + attribute + " ");
    return Recording.source(name, text.getBytes(StandardCharsets.UTF_8));
  }

  /** What waits, or is joined, has its bounds; nothing of it is lost. */
  @Test
  void countlessRepeatedCasesAreNotGathered() {
    Recording teardowns = new Recording();
    StringBuilder many = new StringBuilder("<testsuite name='s'>");
    for (int i = 0; i < 20_000; i++) {
      many.append("<testcase name='t'><error message='failed on teardown with ").append(i);
      many.append("'/></testcase>");
    }
    assertThat(teardowns.read(many + "</testsuite>").total().errored()).isEqualTo(1);
    assertThat(teardowns.results.stream().mapToInt(one -> failures(one)).max()).hasValue(10);

    String output = "<system-out>" + "x".repeat(400_000) + "</system-out></testcase>";
    String loud = cases("FFFFFFFFFFFFFFFFFFFFFFFFFFFFFF").replace("</testcase>", output);
    List<Integer> sizes = new ArrayList<>();
    Recording loudOnes = new Recording();
    var report = loudOnes.read(loud);
    loudOnes.results.forEach(one -> sizes.add(one.attempts().size()));
    assertThat(report.total().failed()).isEqualTo(30);
    assertThat(report.files().get(0).problems())
        .containsExactly(
            "29 cases have the name of another test, and nothing tells whether it was tried again;"
                + " each counts, numbered in order (#2, #3, …)");
    assertThat(sizes).hasSize(30).containsOnly(1);
  }

  private static int failures(TestResult result) {
    return result.attempts().get(0).failures().size();
  }

  @Test
  void theSameCaseInTwoFilesCountsOnce() {
    Recording recording = new Recording();
    UploadReport report = recording.read(cases("F"), cases("F"));

    assertThat(report.total().tests()).isEqualTo(1);
    assertThat(recording.again).isEmpty();
    assertThat(report.files().get(1).problems())
        .containsExactly("1 case stands in an earlier file with the same result; counted once");
  }

  @Test
  void repetitionsAreNumberedInOrderAndKeepTheirIdentity() {
    Recording first = new Recording();
    first.read(cases("PPP"));
    Recording second = new Recording();
    second.read(cases("PPP"));

    assertThat(first.results)
        .extracting(result -> result.test().displayName())
        .containsExactly("t", "t#2", "t#3");
    assertThat(first.results)
        .extracting(TestResult::test)
        .isEqualTo(second.results.stream().map(TestResult::test).toList());
  }

  @Test
  void manyTestsStayApartAndAreFoundAgain() {
    // More suites than have a table of their own, and one suite whose table grows often.
    StringBuilder text = new StringBuilder("<testsuites>");
    for (int i = 0; i < 30_000; i++) {
      text.append("<testsuite name='s").append(i).append("'><testcase name='t'><failure/>");
      text.append("</testcase></testsuite><testcase name='t").append(i).append("'/>");
    }
    String file = text.append("</testsuites>").toString();
    Recording recording = new Recording();
    UploadReport report = recording.read(file, file.replace("<failure/>", ""));

    assertThat(recording.results.stream().map(r -> r.test().key()).distinct()).hasSize(90_000);
    assertThat(recording.results).hasSize(90_000);
    assertThat(report.total().retried()).isZero();
    assertThat(report.total().passed()).isEqualTo(60_000);
  }
}
