package org.vinecellar.core.formats.json;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.io.InputStream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.ResultReader;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.results.TestResult;

/** A format in which every line is a JSON object, or should be. */
public abstract class LinesReader implements ResultReader {
  /** What is done with the lines of one file. */
  public abstract static class Parser {
    protected final ReadLimits limits;
    protected final CaseHandler handler;
    protected final Problems problems;
    private int count;

    /** For one file. */
    protected Parser(ReadLimits limits, CaseHandler handler, Problems problems) {
      this.limits = limits;
      this.handler = handler;
      this.problems = problems;
    }

    /** A line that is an object. */
    protected abstract void object(JsonNode object, int line);

    /** A line that is none, and not blank. */
    protected void other(String text, int line) {
      problems.add("line " + line + " is no JSON object and was left out");
    }

    /** What a line holds that is an array; null when it is none. */
    protected static @Nullable JsonNode array(String line) {
      return JsonLines.array(line);
    }

    /** Hands on a result, within the limit. */
    protected final void emit(TestResult result) {
      emit(result, Repeat.OTHER);
    }

    /** The same, where its test may have been told of before. */
    protected final void emit(TestResult result, Repeat repeat) {
      if (++count > limits.maxCases()) {
        throw new UnreadableFileException(
            "has more than " + limits.maxCases() + " tests; split it into several files");
      }
      handler.onCase(result, repeat);
    }

    /** After the last line. */
    protected abstract void end();
  }

  /** A parser for one file. */
  protected abstract Parser parser(ReadLimits limits, CaseHandler handler, Problems problems);

  @Override
  public final void read(
      InputStream content, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException {
    Problems problems = new Problems(handler, limits.maxProblems());
    Parser parser = parser(limits, handler, problems);
    JsonLines.read(content, limits, parser);
    parser.end();
    problems.close();
  }
}
