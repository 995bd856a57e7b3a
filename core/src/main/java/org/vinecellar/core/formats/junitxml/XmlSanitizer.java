package org.vinecellar.core.formats.junitxml;

import java.io.IOException;
import java.io.InputStream;

/**
 * Makes well-formed UTF-8 XML bytes of what frameworks write: replaces what XML 1.0 forbids and
 * keeps all else, lines included. The ugly fast part of the reader: one pass over bytes through a
 * bounded buffer, with a class table for the common case.
 *
 * <p>Control characters, raw or as references outside CDATA, become a private character U+E000 plus
 * their code, so that the escape character of terminal colours survives: {@link #restore} brings it
 * back. Invalid UTF-8 becomes U+FFFD. A bare {@code ]]>} in text becomes {@code ]]&gt;}.
 */
final class XmlSanitizer extends InputStream {
  private static final int SIZE = 1 << 16;

  /** The most bytes that one input byte or reference can turn into. */
  private static final int ROOM = 16;

  /** The longest thing looked at as one: {@code <![CDATA[} or a character reference. */
  private static final int LOOKAHEAD = 16;

  private static final char PRIVATE = '\uE000';
  private static final char ESCAPE = (char) (PRIVATE + 0x1B);

  /** Where in the document it is, and which bytes need a look there. */
  private enum State {
    /** Text and tags alike. */
    MARKUP("&]!"),
    CDATA("]"),
    COMMENT("-");

    private final byte[] special = new byte[256];

    State(String ascii) {
      for (int i = 0; i < 256; i++) {
        boolean control = i < 0x20 && i != '\t' && i != '\n' && i != '\r';
        special[i] = (byte) (control || i >= 0x80 || ascii.indexOf(i) >= 0 ? 1 : 0);
      }
    }
  }

  private final InputStream in;
  private final long maxBytes;
  private final byte[] input = new byte[SIZE];
  private int inputAt;
  private int inputEnd;
  private boolean inputDone;
  private long total;
  private byte[] output = new byte[SIZE * 2];
  private int outputAt;
  private int outputEnd;
  private State state = State.MARKUP;

  /** The byte before {@link #inputAt}; it may have left the buffers. */
  private int before;

  private int replaced;
  private boolean restorable;

  /**
   * @param in UTF-8, without byte order mark
   * @param maxBytes that may come from it
   */
  XmlSanitizer(InputStream in, long maxBytes) {
    this.in = in;
    this.maxBytes = maxBytes;
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
    return inputDone && inputAt == inputEnd && outputAt == outputEnd;
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
    if (outputAt == outputEnd && !fill()) {
      return -1;
    }
    return output[outputAt++] & 0xFF;
  }

  @Override
  public int read(byte[] target, int offset, int length) throws IOException {
    if (length == 0) {
      return 0;
    }
    if (outputAt == outputEnd && !fill()) {
      return -1;
    }
    int n = Math.min(length, outputEnd - outputAt);
    System.arraycopy(output, outputAt, target, offset, n);
    outputAt += n;
    return n;
  }

  private boolean fill() throws IOException {
    outputAt = 0;
    outputEnd = 0;
    while (outputEnd == 0) {
      if (inputEnd - inputAt <= LOOKAHEAD && !inputDone) {
        refill();
      }
      if (inputAt == inputEnd) {
        return false;
      }
      sanitize();
    }
    return true;
  }

  private void refill() throws IOException {
    System.arraycopy(input, inputAt, input, 0, inputEnd - inputAt);
    inputEnd -= inputAt;
    inputAt = 0;
    while (inputEnd < SIZE) {
      int n = in.read(input, inputEnd, SIZE - inputEnd);
      if (n < 0) {
        inputDone = true;
        return;
      }
      inputEnd += n;
      total += n;
      if (total > maxBytes) {
        throw new TooManyBytesException();
      }
    }
  }

  /** Marks a file above the limit, to be told apart from a failing stream. */
  static final class TooManyBytesException extends IOException {
    private static final long serialVersionUID = 1L;
  }

  private void sanitize() {
    int stop = inputDone ? inputEnd : inputEnd - LOOKAHEAD;
    int at = inputAt;
    int out = outputEnd;
    byte[] from = input;
    byte[] to = output;
    int room = to.length - ROOM;
    while (at < stop && out < room) {
      byte[] special = state.special;
      int start = at;
      int most = Math.min(stop, at + (room - out));
      while (at < most && special[from[at] & 0xFF] == 0) {
        at++;
      }
      int run = at - start;
      if (run > 0) {
        System.arraycopy(from, start, to, out, run);
        out += run;
        before = from[at - 1];
      }
      if (at < most) {
        inputAt = at;
        outputEnd = out;
        special(from[at] & 0xFF);
        before = from[inputAt - 1];
        at = inputAt;
        out = outputEnd;
      }
    }
    inputAt = at;
    outputEnd = out;
  }

  private void special(int b) {
    if (b >= 0x80) {
      multiByte(b);
      return;
    }
    inputAt++;
    if (b < 0x20) {
      control(b);
      return;
    }
    switch (b) {
      case '&' -> reference();
      case ']' -> bracket();
      case '!' -> declaration();
      default -> dash();
    }
  }

  /** Ends CDATA, or is the bare {@code ]]>} that text may not hold. */
  private void bracket() {
    if (!follows("]>")) {
      put(']');
      return;
    }
    inputAt += 2;
    if (state == State.CDATA) {
      state = State.MARKUP;
      putAscii("]]>");
    } else {
      replaced++;
      putAscii("]]&gt;");
    }
  }

  private void declaration() {
    put('!');
    if (before != '<') {
      return;
    }
    if (follows("[CDATA[")) {
      state = State.CDATA;
      inputAt += 7;
      putAscii("[CDATA[");
    } else if (follows("--")) {
      state = State.COMMENT;
      inputAt += 2;
      putAscii("--");
    }
  }

  private void dash() {
    put('-');
    if (follows("->")) {
      state = State.MARKUP;
      inputAt += 2;
      putAscii("->");
    }
  }

  private boolean follows(String text) {
    if (inputEnd - inputAt < text.length()) {
      return false;
    }
    for (int i = 0; i < text.length(); i++) {
      if (input[inputAt + i] != text.charAt(i)) {
        return false;
      }
    }
    return true;
  }

  /** A reference to a character that XML forbids, as in {@code &#27;}; all others pass. */
  private void reference() {
    int code = follows("#") ? referenced() : -1;
    if (code < 0 || legal(code)) {
      put('&');
      return;
    }
    while (input[inputAt] != ';') {
      inputAt++;
    }
    inputAt++;
    control(code);
  }

  /** The number of a reference that ends within the look-ahead; -1 for none. */
  private int referenced() {
    int at = inputAt + 1;
    boolean hex = at < inputEnd && (input[at] == 'x' || input[at] == 'X');
    if (hex) {
      at++;
    }
    int value = 0;
    int digits = 0;
    for (; at < inputEnd && digits < 9; at++, digits++) {
      if (input[at] == ';') {
        return digits == 0 ? -1 : value;
      }
      int digit = Character.digit(input[at], hex ? 16 : 10);
      if (digit < 0) {
        return -1;
      }
      value = Math.min(value * (hex ? 16 : 10) + digit, 0x110000);
    }
    return -1;
  }

  private static boolean legal(int code) {
    return code == '\t'
        || code == '\n'
        || code == '\r'
        || (code >= 0x20 && code < 0xD800)
        || (code >= 0xE000 && code < 0xFFFE)
        || (code >= 0x10000 && code < 0x110000);
  }

  private void control(int code) {
    replaced++;
    if (code < 0x20) {
      restorable = true;
      putChar((char) (PRIVATE + code));
    } else {
      putChar('\uFFFD');
    }
  }

  /** Copies one UTF-8 sequence, or puts U+FFFD for one byte that begins none. */
  private void multiByte(int first) {
    int length = first >= 0xF0 && first <= 0xF4 ? 4 : first >= 0xE0 ? 3 : first >= 0xC2 ? 2 : 0;
    if (first > 0xF4 || length == 0 || inputEnd - inputAt < length || !wellFormed(length)) {
      inputAt++;
      replaced++;
      putChar('\uFFFD');
      return;
    }
    for (int i = 0; i < length; i++) {
      put(input[inputAt++]);
    }
  }

  private boolean wellFormed(int length) {
    int code = input[inputAt] & (0xFF >> (length + 1));
    for (int i = 1; i < length; i++) {
      int b = input[inputAt + i];
      if ((b & 0xC0) != 0x80) {
        return false;
      }
      code = code << 6 | (b & 0x3F);
    }
    int least = length == 2 ? 0x80 : length == 3 ? 0x800 : 0x10000;
    return code >= least && legal(code);
  }

  private void put(int b) {
    output[outputEnd++] = (byte) b;
  }

  private void putAscii(String text) {
    for (int i = 0; i < text.length(); i++) {
      put(text.charAt(i));
    }
  }

  /** One character of three UTF-8 bytes. */
  private void putChar(char c) {
    put(0xE0 | c >> 12);
    put(0x80 | (c >> 6 & 0x3F));
    put(0x80 | (c & 0x3F));
  }
}
