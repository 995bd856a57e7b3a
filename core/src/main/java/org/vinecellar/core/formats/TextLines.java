package org.vinecellar.core.formats;

import java.io.IOException;
import java.io.InputStream;
import java.io.Reader;
import org.jspecify.annotations.Nullable;

/** Lines of a text of any size, each bounded; UTF-8, or UTF-16 with a byte order mark. */
public final class TextLines {
  private static final int BUFFER = 1 << 14;

  private final Reader reader;
  private final int maxChars;
  private final char[] buffer = new char[BUFFER];
  private int at;
  private int end;
  private int number;

  /**
   * @param limits how much is read in all, and kept of one line
   * @throws IOException when the stream fails
   */
  public TextLines(InputStream content, ReadLimits limits) throws IOException {
    this(content, limits, limits.maxTextChars());
  }

  /**
   * @param maxLineChars kept of one line
   * @throws IOException when the stream fails
   */
  public TextLines(InputStream content, ReadLimits limits, int maxLineChars) throws IOException {
    this.reader = TextSource.open(content, limits);
    this.maxChars = maxLineChars;
  }

  /**
   * The next line without its end, cut where it is too long; null after the last.
   *
   * @throws UnreadableFileException when the file is larger than its limit
   */
  public @Nullable String next() throws IOException {
    StringBuilder line = null;
    while (true) {
      if (at == end) {
        at = 0;
        end = Math.max(reader.read(buffer), 0);
        if (end == 0) {
          return line == null ? null : line.toString();
        }
      }
      if (line == null) {
        line = new StringBuilder();
        number++;
      }
      int from = at;
      while (at < end && buffer[at] != '\n') {
        at++;
      }
      line.append(buffer, from, Math.min(at - from, maxChars - line.length()));
      if (at < end) {
        at++;
        int length = line.length();
        if (length > 0 && line.charAt(length - 1) == '\r') {
          line.setLength(length - 1);
        }
        return line.toString();
      }
    }
  }

  /** The number of the line that {@link #next} gave last, from 1. */
  public int number() {
    return number;
  }
}
