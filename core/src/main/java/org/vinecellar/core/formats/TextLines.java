package org.vinecellar.core.formats;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.PushbackInputStream;
import java.io.Reader;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
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
    PushbackInputStream in = new PushbackInputStream(new Bounded(content, limits.maxBytes()), 3);
    this.reader = new InputStreamReader(in, charset(in));
    this.maxChars = limits.maxTextChars();
  }

  private static Charset charset(PushbackInputStream in) throws IOException {
    byte[] mark = in.readNBytes(3);
    int first = mark.length < 2 ? 0 : (mark[0] & 0xFF) << 8 | mark[1] & 0xFF;
    if (first == 0xEFBB && mark.length == 3 && (mark[2] & 0xFF) == 0xBF) {
      return StandardCharsets.UTF_8;
    }
    boolean wide = first == 0xFEFF || first == 0xFFFE;
    in.unread(mark, wide ? 2 : 0, mark.length - (wide ? 2 : 0));
    return first == 0xFEFF
        ? StandardCharsets.UTF_16BE
        : wide ? StandardCharsets.UTF_16LE : StandardCharsets.UTF_8;
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

  /** Counts what is read, and stops at the limit. */
  private static final class Bounded extends FilterInputStream {
    private final long most;
    private long read;

    Bounded(InputStream in, long most) {
      super(in);
      this.most = most;
    }

    @Override
    public int read() throws IOException {
      int b = super.read();
      count(b < 0 ? 0 : 1);
      return b;
    }

    @Override
    public int read(byte[] target, int offset, int length) throws IOException {
      int n = super.read(target, offset, length);
      count(Math.max(n, 0));
      return n;
    }

    private void count(int n) {
      read += n;
      if (read > most) {
        throw new UnreadableFileException(
            "is larger than " + most + " bytes; split it into several files");
      }
    }
  }
}
