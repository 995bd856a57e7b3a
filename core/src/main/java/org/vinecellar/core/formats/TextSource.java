package org.vinecellar.core.formats;

import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.PushbackInputStream;
import java.io.Reader;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import org.vinecellar.core.streams.CountingStream;

/**
 * The text of a file up to a limit: UTF-8, or UTF-16 with a byte order mark. Wrong bytes become
 * U+FFFD.
 */
public final class TextSource {
  private TextSource() {}

  /**
   * Opens a file. Reading it fails with an {@link UnreadableFileException} when it is larger than
   * its limit.
   *
   * @throws IOException when the stream fails
   */
  public static Reader open(InputStream content, ReadLimits limits) throws IOException {
    PushbackInputStream in = new PushbackInputStream(new Bounded(content, limits.maxBytes()), 3);
    return new InputStreamReader(in, charset(in));
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

  /** Stops at the limit. */
  private static final class Bounded extends CountingStream {
    private final long most;

    Bounded(InputStream in, long most) {
      super(in);
      this.most = most;
    }

    @Override
    protected void counted(int more) {
      if (count() > most) {
        throw new UnreadableFileException(
            "is larger than " + most + " bytes; split it into several files");
      }
    }
  }
}
