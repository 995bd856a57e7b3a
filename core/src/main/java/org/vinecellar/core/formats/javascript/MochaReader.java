package org.vinecellar.core.formats.javascript;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.util.HashSet;
import java.util.Set;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.json.DocumentReader;
import org.vinecellar.core.formats.json.JsonCursor;
import org.vinecellar.core.formats.json.JsonHead;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/**
 * Reads Mocha's JSON. Its three lists by outcome are read, since the list of all tests does not say
 * which of them were pending, and leaves hooks out.
 */
public final class MochaReader extends DocumentReader {
  @Override
  public String format() {
    return "mocha-json";
  }

  @Override
  public boolean recognises(FileHead head) {
    JsonHead json = JsonHead.of(head);
    return !json.array() && json.has("stats", "stats/passes", "stats/pending");
  }

  @Override
  protected Parser parser(ReadLimits limits, CaseHandler handler, Problems problems) {
    return new MochaParser(limits, handler, problems);
  }

  private static final class MochaParser extends Parser {
    private final Set<Key128> failing = new HashSet<>();
    private int promised;

    MochaParser(ReadLimits limits, CaseHandler handler, Problems problems) {
      super(limits, handler, problems);
    }

    @Override
    protected void document(JsonCursor document) throws IOException {
      document.object(
          field -> {
            switch (field) {
              case "stats" -> promised = document.tree().path("failures").asInt();
              case "pending" -> document.array(() -> test(document.tree(), Outcome.SKIPPED));
              case "failures" -> document.array(() -> test(document.tree(), Outcome.FAILED));
              case "passes" -> document.array(() -> test(document.tree(), Outcome.PASSED));
              default -> {
                // sums, and the list of all
              }
            }
          });
      if (promised > 0) {
        failed("it counts " + promised + (promised == 1 ? " failure" : " failures"));
      }
    }

    private void test(JsonNode test, Outcome list) {
      TestResult result = MochaTest.read(test, list, values);
      TestId id = result.test();
      if (list == Outcome.FAILED) {
        failing.add(id.key());
      } else if (list == Outcome.PASSED
          && !test.path("err").isEmpty()
          && failing.contains(id.key())) {
        // It passed, and failed after that: the list of failures has it.
        return;
      }
      emit(result);
    }
  }
}
