package org.vinecellar.core.formats.googletest;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Seconds;
import org.vinecellar.core.formats.json.DocumentReader;
import org.vinecellar.core.formats.json.JsonCursor;
import org.vinecellar.core.formats.json.JsonHead;
import org.vinecellar.core.formats.json.Values;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** Reads GoogleTest's JSON, in which a disabled test is told by its status only. */
public final class GoogleTestReader extends DocumentReader {
  /** What our own model holds. */
  private static final Set<String> KNOWN =
      Set.of(
          "name",
          "file",
          "line",
          "status",
          "result",
          "timestamp",
          "time",
          "classname",
          "failures",
          "skipped");

  @Override
  public String format() {
    return "googletest-json";
  }

  @Override
  public boolean recognises(FileHead head) {
    JsonHead json = JsonHead.of(head);
    return !json.array() && json.has("tests", "failures", "testsuites");
  }

  @Override
  protected Parser parser(ReadLimits limits, CaseHandler handler, Problems problems) {
    return new GoogleTestParser(limits, handler, problems);
  }

  private static final class GoogleTestParser extends Parser {
    GoogleTestParser(ReadLimits limits, CaseHandler handler, Problems problems) {
      super(limits, handler, problems);
    }

    @Override
    protected void document(JsonCursor document) throws IOException {
      document.object(
          field -> {
            if (field.equals("testsuites")) {
              document.array(() -> suite(document.tree()));
            }
          });
    }

    private void suite(JsonNode suite) {
      SuitePath path = SuitePath.ROOT.child(values.name(suite, "name", "(suite without a name)"));
      suite.path("testsuite").forEach(test -> test(path, test));
    }

    private void test(SuitePath suite, JsonNode test) {
      List<Failure> failures = new ArrayList<>();
      test.path("failures")
          .forEach(
              failure ->
                  failures.add(
                      new Failure(
                          values.text(failure, "type"), values.text(failure, "failure"), null)));
      boolean ran =
          test.path("status").asText().equals("RUN")
              && !test.path("result").asText().equals("SKIPPED");
      test.path("skipped")
          .forEach(
              reason ->
                  failures.add(
                      new Failure(
                          null,
                          reason.isTextual() ? values.text(reason) : values.text(reason, "message"),
                          null)));
      Outcome outcome =
          !test.path("failures").isEmpty()
              ? Outcome.FAILED
              : ran ? Outcome.PASSED : Outcome.SKIPPED;
      Map<String, String> properties = new LinkedHashMap<>();
      for (Iterator<Map.Entry<String, JsonNode>> fields = test.fields(); fields.hasNext(); ) {
        Map.Entry<String, JsonNode> field = fields.next();
        String value = values.text(field.getValue());
        if (!KNOWN.contains(field.getKey()) && value != null && properties.size() < 200) {
          properties.put(field.getKey(), value);
        }
      }
      emit(
          TestResult.of(
              TestId.of(suite, values.name(test, "name", "(test without a name)"), null),
              ResultKind.TEST,
              List.of(
                  new Attempt(
                      outcome, Seconds.toMicros(test.path("time").asText()), failures, null, null)),
              Values.time(test.path("timestamp")),
              properties,
              values.text(test, "file"),
              Values.line(test.path("line"))));
    }
  }
}
