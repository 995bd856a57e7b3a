package org.vinecellar.core.formats.cucumber;

import java.util.Set;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.json.JsonHead;
import org.vinecellar.core.formats.json.LinesReader;

/**
 * Reads Cucumber Messages: one JSON object a line, each with one field that names its kind. The
 * schema is open and published by the Cucumber project.
 */
public final class CucumberMessagesReader extends LinesReader {
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
  protected Parser parser(ReadLimits limits, CaseHandler handler, Problems problems) {
    return new MessagesParser(limits, handler, problems);
  }
}
