package org.vinecellar.core.formats.cucumber;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.io.InputStream;
import java.util.Set;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.ResultReader;
import org.vinecellar.core.formats.json.JsonHead;
import org.vinecellar.core.formats.json.JsonLines;

/**
 * Reads Cucumber Messages: one JSON object a line, each with one field that names its kind. The
 * schema is open and published by the Cucumber project.
 */
public final class CucumberMessagesReader implements ResultReader {
  private static final Set<String> FIRST =
      Set.of("meta", "source", "gherkinDocument", "parseError", "testRunStarted");

  @Override
  public String format() {
    return "cucumber-messages";
  }

  @Override
  public boolean recognises(FileHead head) {
    JsonHead json = JsonHead.of(head);
    return !json.array()
        && json.names().stream().anyMatch(FIRST::contains)
        && (json.has("meta/protocolVersion")
            || json.has("source/uri")
            || json.has("source/data")
            || json.has("gherkinDocument")
            || json.has("parseError/source")
            || json.has("testRunStarted/timestamp"));
  }

  @Override
  public void read(InputStream content, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException {
    Problems problems = new Problems(handler, limits.maxProblems());
    MessagesParser parser = new MessagesParser(limits, handler, problems);
    JsonLines.read(
        content,
        limits,
        new JsonLines.Handler() {
          @Override
          public void object(JsonNode object, int line) {
            parser.message(object);
          }

          @Override
          public void other(String text, int line) {
            problems.add("line " + line + " is no JSON object and was left out");
          }
        });
    parser.end();
    problems.close();
  }
}
