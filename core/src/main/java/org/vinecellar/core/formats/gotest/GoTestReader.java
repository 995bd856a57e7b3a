package org.vinecellar.core.formats.gotest;

import com.fasterxml.jackson.databind.JsonNode;
import com.google.re2j.Pattern;
import java.io.IOException;
import java.io.InputStream;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.ResultReader;
import org.vinecellar.core.formats.json.JsonLines;

/**
 * Reads what {@code go test -json} writes, alone or with its error output between: one event a line
 * (documentation of Go's {@code cmd/test2json}).
 */
public final class GoTestReader implements ResultReader {
  private static final Pattern EVENT =
      Pattern.compile(
          "(?m)^\\{(?:\"Time\":\"[^\"]*\",|\"ImportPath\":\"[^\"]*\",)?\"Action\":\"[a-z-]+\"[,}]");

  @Override
  public String format() {
    return "go-test";
  }

  @Override
  public boolean recognises(FileHead head) {
    return EVENT.matcher(head.text()).find();
  }

  @Override
  public void read(InputStream content, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException {
    Problems problems = new Problems(handler, limits.maxProblems());
    GoTestParser parser = new GoTestParser(limits, handler, problems);
    JsonLines.read(
        content,
        limits,
        new JsonLines.Handler() {
          @Override
          public void object(JsonNode object, int line) {
            parser.event(object);
          }

          @Override
          public void other(String text, int line) {
            parser.plain(text, line);
          }
        });
    parser.end();
    problems.close();
  }
}
