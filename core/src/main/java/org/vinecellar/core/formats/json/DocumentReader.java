package org.vinecellar.core.formats.json;

import java.io.IOException;
import java.io.InputStream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FailedSetUp;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.ResultReader;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestResult;

/** A reader of one JSON document: opens it, counts its cases, and knows the usual words. */
public abstract class DocumentReader implements ResultReader {
  /** Made anew for each file. */
  public abstract static class Parser {
    protected final Values values;
    protected final Problems problems;
    private final ReadLimits limits;
    private final CaseHandler handler;
    private int count;

    /** For one file. */
    protected Parser(ReadLimits limits, CaseHandler handler, Problems problems) {
      this.limits = limits;
      this.handler = handler;
      this.problems = problems;
      this.values = new Values(limits);
    }

    /** Reads the outermost value. */
    protected abstract void document(JsonCursor document) throws IOException;

    /** Hands on a result, within the limit. These formats have retries as a field of their own. */
    protected void emit(TestResult result) {
      emit(result, Repeat.OTHER);
    }

    /** The same, where its test may have been told of before. */
    protected void emit(TestResult result, Repeat repeat) {
      if (++count > limits.maxCases()) {
        throw new UnreadableFileException(
            "has more than " + limits.maxCases() + " cases; split it into several files");
      }
      handler.onCase(result, repeat);
    }

    /** Hands on the failed set-up of a suite, or of what is named. */
    protected void emitSetUp(SuitePath suite, @Nullable String name, Failure failure) {
      emit(FailedSetUp.of(suite, name, failure));
    }

    /** The file itself says that something failed. */
    protected void failed(String says) {
      handler.onFailed(says);
    }

    /** The file says that its test run ended too early. */
    protected void brokenOff(String how) {
      handler.onBrokenOff(how);
    }

    /** A property of the file as a whole; nothing when there is no value. */
    protected void property(String name, @Nullable String value) {
      if (value != null) {
        handler.onProperty(name, value);
      }
    }
  }

  /** A parser for one file. */
  protected abstract Parser parser(ReadLimits limits, CaseHandler handler, Problems problems);

  @Override
  public void read(InputStream content, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException {
    Problems problems = new Problems(handler, limits.maxProblems());
    Parser parser = parser(limits, handler, problems);
    JsonFile.read(content, limits, parser::document);
    problems.close();
  }
}
