package org.vinecellar.core.formats.xml;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/**
 * Tells which bytes of a UTF-8 XML document may stay as they are, and where in the document it is.
 * Looks at eight bytes at once while none of them needs a look of its own.
 */
final class XmlScan {
  /** The longest thing looked at as one: {@code <![CDATA[} or a character reference. */
  static final int LOOKAHEAD = 16;

  private static final VarHandle EIGHT =
      MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);
  private static final long ONES = 0x0101010101010101L;
  private static final long HIGHS = 0x8080808080808080L;

  /** Where in the document it is, and which ASCII characters need a look there. */
  private enum State {
    /** Text and tags alike. */
    MARKUP('&', ']', '!'),
    CDATA(']', ']', ']'),
    COMMENT('-', '-', '-');

    private final long a;
    private final long b;
    private final long c;
    private final byte[] special = new byte[256];

    State(char a, char b, char c) {
      this.a = ONES * a;
      this.b = ONES * b;
      this.c = ONES * c;
      for (int i = 0; i < 256; i++) {
        boolean control = i < 0x20 && i != '\t' && i != '\n' && i != '\r';
        special[i] = (byte) (control || i >= 0x80 || i == a || i == b || i == c ? 1 : 0);
      }
    }
  }

  private State state = State.MARKUP;

  private int cdataEnds;

  /** The byte before the next; it may have left the buffer. */
  private byte before;

  /**
   * Passes over what may stay.
   *
   * @param stop where to end; what begins before it may be passed as a whole
   * @param end of the bytes that are there: {@link #LOOKAHEAD} after {@code stop}, or the
   *     document's
   * @return the place of the first byte that must be replaced, or one not before {@code stop}
   */
  int clean(byte[] bytes, int from, int stop, int end) {
    int at = from;
    while (at < stop) {
      at = plain(bytes, at, stop);
      if (at < stop) {
        int kept = kept(bytes, at, at > from ? bytes[at - 1] : before, end);
        if (kept == 0) {
          break;
        }
        at += kept;
      }
    }
    if (at > from) {
      before = bytes[at - 1];
    }
    return at;
  }

  /** Whether what was passed ends inside CDATA. */
  boolean inCdata() {
    return state == State.CDATA;
  }

  /** How many sections of CDATA have ended. The end of one is always passed as a whole. */
  int cdataEnds() {
    return cdataEnds;
  }

  /** Whether what was passed ends inside a comment. */
  boolean inComment() {
    return state == State.COMMENT;
  }

  /** What was to be replaced is passed. */
  void replaced() {
    before = 0;
  }

  private int plain(byte[] bytes, int from, int stop) {
    long a = state.a;
    long b = state.b;
    long c = state.c;
    byte[] special = state.special;
    int at = from;
    while (true) {
      // A byte's high bit comes out set when it is below a blank, above ASCII, or one of the three;
      // a borrow can also set it for a byte after such a one, which costs a look and no more.
      while (at + 8 <= stop) {
        long eight = (long) EIGHT.get(bytes, at);
        long look =
            eight
                | (eight - ONES * 0x20)
                | ((eight ^ a) - ONES)
                | ((eight ^ b) - ONES)
                | ((eight ^ c) - ONES);
        if ((look & HIGHS) != 0) {
          at += Long.numberOfTrailingZeros(look & HIGHS) >> 3;
          break;
        }
        at += 8;
      }
      if (at >= stop || special[bytes[at] & 0xFF] != 0) {
        return at;
      }
      at++;
    }
  }

  /** How many bytes may stay here; 0 when something is to be replaced. */
  private int kept(byte[] bytes, int at, byte previous, int end) {
    int b = bytes[at] & 0xFF;
    if (b >= 0x80) {
      return sequence(bytes, at, end);
    }
    return switch (b) {
      case '&' -> XmlReferences.isForbidden(bytes, at, end) ? 0 : 1;
      case ']' -> bracket(bytes, at, end);
      case '!' -> previous == '<' ? declaration(bytes, at, end) : 1;
      case '-' -> comment(bytes, at, end);
      default -> 0;
    };
  }

  /** Ends CDATA, or is the bare {@code ]]>} that text may not hold. */
  private int bracket(byte[] bytes, int at, int end) {
    if (!follows(bytes, at + 1, end, "]>")) {
      return 1;
    }
    if (state != State.CDATA) {
      return 0;
    }
    state = State.MARKUP;
    cdataEnds++;
    return 3;
  }

  private int declaration(byte[] bytes, int at, int end) {
    if (follows(bytes, at + 1, end, "[CDATA[")) {
      state = State.CDATA;
      return 8;
    }
    if (follows(bytes, at + 1, end, "--")) {
      state = State.COMMENT;
      return 3;
    }
    return 1;
  }

  private int comment(byte[] bytes, int at, int end) {
    if (!follows(bytes, at + 1, end, "->")) {
      return 1;
    }
    state = State.MARKUP;
    return 3;
  }

  private static boolean follows(byte[] bytes, int at, int end, String text) {
    if (end - at < text.length()) {
      return false;
    }
    for (int i = 0; i < text.length(); i++) {
      if (bytes[at + i] != text.charAt(i)) {
        return false;
      }
    }
    return true;
  }

  /** The length of the UTF-8 sequence that begins here; 0 when none does that XML allows. */
  private static int sequence(byte[] bytes, int at, int end) {
    int first = bytes[at] & 0xFF;
    int length = first > 0xF4 ? 0 : first >= 0xF0 ? 4 : first >= 0xE0 ? 3 : first >= 0xC2 ? 2 : 0;
    if (length == 0 || end - at < length) {
      return 0;
    }
    int code = first & (0xFF >> (length + 1));
    for (int i = 1; i < length; i++) {
      int b = bytes[at + i];
      if ((b & 0xC0) != 0x80) {
        return 0;
      }
      code = code << 6 | (b & 0x3F);
    }
    int least = length == 2 ? 0x80 : length == 3 ? 0x800 : 0x10000;
    return code >= least && XmlReferences.isLegal(code) ? length : 0;
  }
}
