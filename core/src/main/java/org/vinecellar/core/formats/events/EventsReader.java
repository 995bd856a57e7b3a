package org.vinecellar.core.formats.events;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.io.InputStream;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.ResultReader;
import org.vinecellar.core.formats.json.JsonHead;
import org.vinecellar.core.formats.json.JsonLines;

/** Reads our own events, one JSON object a line. */
public final class EventsReader implements ResultReader {
  @Override
  public String format() {
    return "vine-events";
  }

  @Override
  public boolean recognises(FileHead head) {
    JsonHead json = JsonHead.of(head);
    return !json.array() && json.has("event");
  }

  @Override
  public void read(InputStream content, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException {
    Problems problems = new Problems(handler, limits.maxProblems());
    EventsParser parser = new EventsParser(limits, handler, problems);
    JsonLines.read(
        content,
        limits,
        new JsonLines.Handler() {
          @Override
          public void object(JsonNode object, int line) {
            parser.event(object, line);
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
