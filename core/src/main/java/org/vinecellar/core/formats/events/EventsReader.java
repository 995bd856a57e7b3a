package org.vinecellar.core.formats.events;

import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.json.JsonHead;
import org.vinecellar.core.formats.json.LinesReader;

/** Reads our own events, one JSON object a line. */
public final class EventsReader extends LinesReader {
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
  protected Parser parser(ReadLimits limits, CaseHandler handler, Problems problems) {
    return new EventsParser(limits, handler, problems);
  }
}
