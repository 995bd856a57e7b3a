package org.vinecellar.core.triage.code;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.vinecellar.core.triage.reading.FrameReader;

/** Tells own places from those of frameworks and libraries, where a trace is shown. */
public final class TraceLines {
  /** Lines after this many are not told apart. */
  private static final int MAX_LINES = 2_000;

  private static final Pattern OMITTED = Pattern.compile("^\\s*\\.\\.\\. \\d+ (?:more|common).*");

  private TraceLines() {}

  /**
   * The trace line by line.
   *
   * @param trace any text
   * @return as many lines as the text has
   */
  public static List<TraceLine> of(String trace) {
    String[] texts = trace.split("\n", -1);
    List<TraceLine> lines = new ArrayList<>();
    TraceLine.Kind before = null;
    for (int i = 0; i < texts.length; i++) {
      String text = withoutReturn(texts[i]);
      if (before != null) {
        lines.add(new TraceLine(before, text));
        before = null;
        continue;
      }
      boolean tell = i < MAX_LINES && !text.isBlank();
      String next = i + 1 < texts.length ? withoutReturn(texts[i + 1]) : null;
      FrameReader.Read place = tell ? FrameReader.read(text, next) : null;
      TraceLine.Kind kind =
          place != null && !Libraries.isOne(place.frame())
              ? TraceLine.Kind.OWN
              : place != null || tell && OMITTED.matcher(text).matches()
                  ? TraceLine.Kind.FRAMEWORK
                  : TraceLine.Kind.TEXT;
      before = place != null && place.two() ? kind : null;
      lines.add(new TraceLine(kind, text));
    }
    return lines;
  }

  private static String withoutReturn(String line) {
    return line.endsWith("\r") ? line.substring(0, line.length() - 1) : line;
  }
}
