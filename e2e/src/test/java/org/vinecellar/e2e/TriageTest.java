package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * From the pipeline to the spreadsheet: failures are pushed, one is explained, the next night
 * arrives explained.
 */
class TriageTest {
  private static final String STREAM = "triage/quay";
  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private void push(String stream, int night, String... tests) throws IOException {
    StringBuilder xml =
        new StringBuilder(
            "<testsuite name='org.skerrow.QuayTest' timestamp='2026-10-0" + night + "T03:00:00Z'>");
    for (String test : tests) {
      xml.append(
          "<testcase classname='org.skerrow.QuayTest' name='"
              + test
              + "' time='1'><error type='java.lang.ArithmeticException' message='/ by zero'>"
              + "java.lang.ArithmeticException: / by zero\n\tat org.skerrow.Fares.split(Fares.java:"
              + (night + 10)
              + ")\n\tat org.skerrow.QuayTest."
              + test
              + "(QuayTest.java:9)\n</error></testcase>");
    }
    Files.writeString(work.resolve("r.xml"), xml.append("</testsuite>"));
    Shell.Result result =
        portal.vine(work, "push", "r.xml", "--stream", stream, "--run", "run-" + night);
    assertThat(result.code()).as(result.err()).isZero();
    assertThat(result.err()).doesNotContain("explained");
  }

  private List<JsonNode> failures(String... more) {
    List<String> words = new ArrayList<>(List.of("export", "failures", "--stream", STREAM));
    words.addAll(List.of(more));
    Shell.Result result = portal.vine(work, words.toArray(String[]::new));
    assertThat(result.code()).as(result.err()).isZero();
    return result.out().lines().map(Portal::json).toList();
  }

  @Test
  void whatWasExplainedOnceIsExplainedTheNextNight() throws IOException {
    push(STREAM, 1, "boards", "=sums");
    Shell.Result decided =
        portal.vine(
            work,
            "triage",
            "decide",
            STREAM + "#1",
            "--test",
            "org.skerrow.QuayTest#boards",
            "--category",
            "Product fault",
            "--comment",
            "divides by \"heads\", of which there are none");
    assertThat(decided.code()).as(decided.err()).isZero();
    assertThat(decided.out()).contains("Product fault, carried to 1 more in this run");
    push(STREAM, 2, "boards", "lands");

    List<JsonNode> lines = failures();
    assertThat(lines).hasSize(4);
    for (JsonNode line : lines) {
      boolean first =
          line.path("run").asInt() == 1 && line.path("test").asText().endsWith("#boards");
      assertThat(line.path("origin").asText()).isEqualTo(first ? "hand" : "carried");
      assertThat(line.path("category").asText()).isEqualTo("Product fault");
      assertThat(line.path("group")).isEqualTo(lines.get(0).path("group"));
      assertThat(line.path("keyKind").asText()).isEqualTo("frame");
      assertThat(line.path("key").asText()).isEqualTo("run-" + line.path("run").asInt());
      assertThat(line.path("ticket").isNull()).isTrue();
    }
    assertThat(failures("--from", "2", "--to", "2")).hasSize(2);
    String csv =
        portal.vine(work, "export", "failures", "--stream", STREAM, "--format", "csv").out();
    assertThat(csv.lines().findFirst())
        .contains(
            "run,key,test,suite,group,keyKind,category,origin,decision,comment,ticket,result,by");
    assertThat(csv).contains("\"divides by \"\"heads\"\", of which there are none\"");

    assertThat(portal.vine(work, "wait", STREAM + "#2").code()).isZero();
    String decision = lines.get(0).path("decision").asText();
    assertThat(portal.vine(work, "triage", "undo", decision).code()).isZero();
    assertThat(failures("--from", "1", "--to", "1"))
        .allSatisfy(line -> assertThat(line.path("decision").isNull()).isTrue());
  }

  @Test
  void aWrongCallSaysWhatToDo() throws IOException {
    push("triage/wrong", 3, "boards");
    Shell.Result test =
        portal.vine(
            work,
            "triage",
            "decide",
            "triage/wrong",
            "--test",
            "QuayTest#boards",
            "--category",
            "Product fault");
    assertThat(test.code()).isEqualTo(5);
    assertThat(test.err()).contains("no test “QuayTest#boards” failed in that run");
    Shell.Result category =
        portal.vine(
            work,
            "triage",
            "decide",
            "triage/wrong",
            "--test",
            "org.skerrow.QuayTest#boards",
            "--category",
            "Moon");
    assertThat(category.code()).isEqualTo(5);
    assertThat(category.err()).contains("there is no category “Moon”; there are “Product fault”");
    assertThat(portal.vine(work, "triage").code()).isEqualTo(2);
    assertThat(portal.vine(work, "export", "failures", "--stream", "triage/none").code())
        .isEqualTo(3);
    assertThat(portal.vine(work, "triage", "undo", "999999").err())
        .contains("there is no decision 999999");
  }
}
