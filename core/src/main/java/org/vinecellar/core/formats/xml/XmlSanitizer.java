package org.vinecellar.core.formats.xml;

import java.io.IOException;
import java.io.InputStream;

/**
 * Makes well-formed UTF-8 XML bytes of what frameworks write: replaces what XML 1.0 forbids and
 * keeps all else, lines included. Reads into its caller's buffer and looks at the bytes there: only
 * when something must be replaced are they moved.
 *
 * <p>Control characters, raw or as references outside CDATA, become a private character U+E000 plus
 * their code, so that the escape character of terminal colours survives: {@link #restore} brings it
 * back. Invalid UTF-8 becomes U+FFFD. A bare {@code ]]>} in text becomes {@code ]]&gt;}.
 */
final class XmlSanitizer extends InputStream {
  private static final int SIZE = 1 << 16;

  /** The least room to work in: more than any replacement, or than is passed over as a whole. */
  private static final int ROOM = 2 * XmlScan.LOOKAHEAD;

  private static final char PRIVATE = '\uE000';
  private static final char ESCAPE = (char) (PRIVATE + 0x1B);

  private final InputStream in;
  private final long maxBytes;
  private final XmlScan scan = new XmlScan();
  private final XmlRuns runs;
  private boolean inputDone;
  private long total;

  /** What was read from the input and not looked at yet. */
  private final byte[] rest = new byte[SIZE];

  private int restAt;
  private int restEnd;

  /** For callers with less room than it takes to work in. */
  private final byte[] small = new byte[8 * ROOM];

  private int smallAt;
  private int smallEnd;
  private int replaced;
  private boolean restorable;

  /**
   * @param in UTF-8, without byte order mark
   * @param maxBytes that may come from it
   */
  XmlSanitizer(InputStream in, long maxBytes) {
    this(in, maxBytes, Long.MAX_VALUE);
  }

  /**
   * @param in UTF-8, without byte order mark
   * @param maxBytes that may come from it
   * @param maxRun bytes of one text, which is cut there, or of one tag, which is refused
   */
  XmlSanitizer(InputStream in, long maxBytes, long maxRun) {
    this.in = in;
    this.maxBytes = maxBytes;
    this.runs = new XmlRuns(maxRun);
  }

  /** How many texts were cut. */
  int cut() {
    return runs.cut();
  }

  /** How many characters were replaced so far. */
  int replaced() {
    return replaced;
  }

  /** Whether {@link #restore} has anything to do. */
  boolean restorable() {
    return restorable;
  }

  /** Whether the file was read to its end. */
  boolean exhausted() {
    return inputDone && restAt == restEnd && smallAt == smallEnd;
  }

  /** Brings escape characters back and makes U+FFFD of all other replaced control characters. */
  static String restore(String text) {
    StringBuilder out = null;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c >= PRIVATE && c < PRIVATE + 0x20) {
        if (out == null) {
          out = new StringBuilder(text);
        }
        out.setCharAt(i, c == ESCAPE ? '\u001B' : '\uFFFD');
      }
    }
    return out == null ? text : out.toString();
  }

  @Override
  public int read() throws IOException {
    return smallAt < smallEnd || fillSmall() ? small[smallAt++] & 0xFF : -1;
  }

  @Override
  public int read(byte[] target, int offset, int length) throws IOException {
    if (length == 0) {
      return 0;
    }
    if (smallAt == smallEnd && length >= small.length) {
      return next(target, offset, Math.min(length, SIZE));
    }
    if (smallAt == smallEnd && !fillSmall()) {
      return -1;
    }
    int n = Math.min(length, smallEnd - smallAt);
    System.arraycopy(small, smallAt, target, offset, n);
    smallAt += n;
    return n;
  }

  private boolean fillSmall() throws IOException {
    smallAt = 0;
    smallEnd = Math.max(next(small, 0, small.length), 0);
    return smallEnd > 0;
  }

  /** The next piece that is not dropped. */
  private int next(byte[] target, int offset, int length) throws IOException {
    int n = work(target, offset, length);
    int kept = kept(target, offset, n);
    while (n > 0 && kept == 0) {
      n = work(target, offset, length);
      kept = kept(target, offset, n);
    }
    return n > 0 ? kept : n;
  }

  private int kept(byte[] target, int offset, int n) {
    return n <= 0
        ? n
        : runs.take(
            target, offset, offset + n, scan.inCdata() ? scan.cdataEnds() : -1, scan.inComment());
  }

  private int work(byte[] target, int offset, int length) throws IOException {
    if (restEnd - restAt > XmlScan.LOOKAHEAD) {
      return moved(target, offset, offset + length) - offset;
    }
    int end = load(target, offset, offset + length);
    if (end == offset) {
      return -1;
    }
    int stop = inputDone ? end : end - XmlScan.LOOKAHEAD;
    int at = scan.clean(target, offset, stop, end);
    restAt = 0;
    restEnd = end - at;
    System.arraycopy(target, at, rest, 0, restEnd);
    return (at < stop ? moved(target, at, offset + length) : at) - offset;
  }

  /** Puts the rest and what the input has ready into the target, enough to look at; its end. */
  private int load(byte[] target, int offset, int limit) throws IOException {
    int end = offset + restEnd - restAt;
    System.arraycopy(rest, restAt, target, offset, restEnd - restAt);
    while (!inputDone && end - offset <= XmlScan.LOOKAHEAD) {
      int n = in.read(target, end, limit - end);
      if (n < 0) {
        inputDone = true;
      } else {
        end += n;
        total += n;
      }
      if (total > maxBytes) {
        throw new TooManyBytesException();
      }
    }
    return end;
  }

  /** Marks a file above the limit, to be told apart from a failing stream. */
  static final class TooManyBytesException extends IOException {
    private static final long serialVersionUID = 1L;
  }

  /** Moves the rest into the target and replaces on the way; where it ended in the target. */
  private int moved(byte[] target, int from, int limit) {
    int stop = inputDone ? restEnd : restEnd - XmlScan.LOOKAHEAD;
    int out = from;
    while (restAt < stop && limit - out > ROOM) {
      int most = Math.min(stop, restAt + limit - out - ROOM);
      int at = scan.clean(rest, restAt, most, restEnd);
      System.arraycopy(rest, restAt, target, out, at - restAt);
      out += at - restAt;
      restAt = at;
      if (at < most) {
        out = replace(target, out);
      }
    }
    return out;
  }

  /** Replaces what must not stay at the rest's beginning; where it ended in the target. */
  private int replace(byte[] target, int out) {
    replaced++;
    scan.replaced();
    byte first = rest[restAt++];
    if (first == ']') {
      restAt += 2;
      byte[] escaped = {']', ']', '&', 'g', 't', ';'};
      System.arraycopy(escaped, 0, target, out, escaped.length);
      return out + escaped.length;
    }
    int code = first;
    if (first == '&') {
      code = XmlReferences.code(rest, restAt - 1, restEnd);
      while (rest[restAt++] != ';') {
        // the reference ends where its number was read
      }
    }
    boolean control = code >= 0 && code < 0x20;
    restorable |= control;
    return put(target, out, control ? (char) (PRIVATE + code) : '\uFFFD');
  }

  /** One character of three UTF-8 bytes. */
  private static int put(byte[] target, int out, char c) {
    target[out] = (byte) (0xE0 | c >> 12);
    target[out + 1] = (byte) (0x80 | (c >> 6 & 0x3F));
    target[out + 2] = (byte) (0x80 | (c & 0x3F));
    return out + 3;
  }
}
