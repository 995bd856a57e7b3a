package org.vinecellar.core.attachments;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.results.Attachment;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

class AttachmentFilesTest {
  private final AttachmentFiles<String> files = new AttachmentFiles<>();

  private static TestResult result(
      String suite, String name, @Nullable String parameters, @Nullable String printed) {
    Attempt attempt = new Attempt(Outcome.FAILED, 1, List.of(), printed, null);
    return TestResult.of(
        TestId.of(SuitePath.ROOT.child(suite), name, parameters),
        ResultKind.TEST,
        List.of(attempt),
        null,
        Map.of(),
        null,
        0);
  }

  private static List<String> names(TestResult result) {
    return result.attempts().get(0).attachments().stream().map(Attachment::name).toList();
  }

  @ParameterizedTest
  @CsvSource(
      nullValues = "-",
      value = {
        "target/shots/a.png, 1",
        "/home/mate/line/target/shots/a.png, 1",
        "C:\\line\\target\\shots\\a.png, 1",
        "./target/../target/shots/a.png, 1",
        "other/shots/a.png, 1",
        "b.png, 2",
        "c.png, -",
        "x/c.png, 3",
        "../../etc/passwd, -",
        "'', -",
      })
  void aPathIsFoundByTheFoldersThatAgree(String named, @Nullable String found) {
    files.add("target/shots/a.png", "1");
    files.add("b.png", "2");
    files.add("x/c.png", "3");
    files.add("y/c.png", "4");

    assertThat(files.at(named)).isEqualTo(found);
  }

  @Test
  void filesGoToTheTestThatTheyAreNamedAfter() {
    files.add("shots/FareTest.rounds up.png", "1");
    files.add("shots/sells_Holm.png", "2");
    files.add("out/refunds/page.html", "3");
    files.add("out/notes.txt", "4");

    assertThat(names(files.claim(result("org.skerrow.FareTest", "roundsUp", null, null))))
        .containsExactly("FareTest.rounds up.png");
    assertThat(names(files.claim(result("s", "sells", "[Holm]", null))))
        .containsExactly("sells_Holm.png");
    assertThat(names(files.claim(result("s", "refunds", null, null)))).containsExactly("page.html");
    assertThat(names(files.claim(result("s", "notes", null, null)))).containsExactly("notes.txt");
    assertThat(names(files.claim(result("s", "refunds", null, null))))
        .as("each file once")
        .isEmpty();
  }

  @Test
  void marksInTheOutputNameFiles() {
    TestResult marked =
        AttachmentMarks.taken(
            result(
                "s",
                "a",
                null,
                "before\n[[ATTACHMENT|/w/a.png]]\n[[ATTACHMENT|b\nc]] [[ATTACHMENT| d.txt ]] [["));

    assertThat(names(marked)).containsExactly("a.png", "d.txt");
    TestResult silent = result("s", "a", null, "nothing");
    assertThat(AttachmentMarks.taken(silent)).isSameAs(silent);
  }
}
