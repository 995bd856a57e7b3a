package org.vinecellar.core.formats.javascript;

import java.io.IOException;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.StackText;
import org.vinecellar.core.formats.json.DocumentReader;
import org.vinecellar.core.formats.json.JsonCursor;
import org.vinecellar.core.formats.json.JsonHead;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.SuitePath;

/** Reads Playwright's JSON: suites in suites, and every try of a test in every browser. */
public final class PlaywrightReader extends DocumentReader {
  @Override
  public String format() {
    return "playwright-json";
  }

  @Override
  public boolean recognises(FileHead head) {
    JsonHead json = JsonHead.of(head);
    return !json.array() && json.has("config", "config/rootDir");
  }

  @Override
  protected Parser parser(ReadLimits limits, CaseHandler handler, Problems problems) {
    return new PlaywrightParser(limits, handler, problems);
  }

  private static final class PlaywrightParser extends Parser {
    private final SpecParser specs;

    PlaywrightParser(ReadLimits limits, CaseHandler handler, Problems problems) {
      super(limits, handler, problems);
      this.specs = new SpecParser(values, problems, limits.maxDepth(), this::emit);
    }

    @Override
    protected void document(JsonCursor document) throws IOException {
      document.object(
          field -> {
            switch (field) {
              case "config" -> property("playwright", values.text(document.tree(), "version"));
              case "suites" -> document.array(() -> specs.suite(SuitePath.ROOT, document.tree()));
              case "errors" -> document.array(() -> error(document));
              default -> {
                // sums, which the results tell better
              }
            }
          });
    }

    private void error(JsonCursor document) throws IOException {
      var error = document.tree();
      String message = values.text(error, "message");
      String stack = values.text(error, "stack");
      Failure failure =
          message == null && stack == null
              ? new Failure(null, "an error outside of any test", null)
              : StackText.of(null, message, stack);
      emitSetUp(SuitePath.ROOT, "outside of tests", failure);
    }
  }
}
