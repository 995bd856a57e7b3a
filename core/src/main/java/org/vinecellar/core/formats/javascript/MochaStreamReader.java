package org.vinecellar.core.formats.javascript;

import com.fasterxml.jackson.databind.JsonNode;
import com.google.re2j.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.json.LinesReader;
import org.vinecellar.core.formats.json.Values;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.TestResult;

/** Reads the stream of Mocha's events, a JSON array of name and test in every line. */
public final class MochaStreamReader extends LinesReader {
  private static final Pattern START = Pattern.compile("^\\s*\\[\"start\",\\{\"total\":[0-9]+");

  @Override
  public String format() {
    return "mocha-json-stream";
  }

  @Override
  public boolean recognises(FileHead head) {
    return START.matcher(head.text()).find();
  }

  @Override
  protected Parser parser(ReadLimits limits, CaseHandler handler, Problems problems) {
    return new StreamParser(limits, handler, problems);
  }

  private static final class StreamParser extends Parser {
    private final Values values;
    private @Nullable Key128 passed;
    private boolean ended;

    StreamParser(ReadLimits limits, CaseHandler handler, Problems problems) {
      super(limits, handler, problems);
      this.values = new Values(limits);
    }

    @Override
    protected void object(JsonNode object, int line) {
      problems.add("line " + line + " is no event and was left out");
    }

    @Override
    protected void other(String text, int line) {
      JsonNode event = array(text);
      if (event == null) {
        problems.add("line " + line + " is no event and was left out");
        return;
      }
      JsonNode told = event.path(1);
      switch (event.path(0).asText()) {
        case "pass" -> test(told, Outcome.PASSED);
        case "fail" -> test(told, Outcome.FAILED);
        case "pending" -> test(told, Outcome.SKIPPED);
        case "end" -> {
          ended = true;
          int failures = told.path("failures").asInt();
          if (failures > 0) {
            handler.onFailed("it counts " + failures + " failures");
          }
        }
        default -> {
          // the start
        }
      }
    }

    private void test(JsonNode told, Outcome outcome) {
      TestResult result = MochaTest.read(told, outcome, values);
      Key128 key = result.test().key();
      // A test that passed may yet fail, as when it says twice that it is done.
      boolean same = outcome == Outcome.FAILED && key.equals(passed);
      emit(result, same ? Repeat.SAME_TRY : Repeat.OTHER);
      passed = outcome == Outcome.PASSED ? key : null;
    }

    @Override
    protected void end() {
      if (!ended) {
        handler.onBrokenOff("it has no end: the test run ended before its time");
      }
    }
  }
}
