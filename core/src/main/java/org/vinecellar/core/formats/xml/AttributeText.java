package org.vinecellar.core.formats.xml;

import java.util.Arrays;
import org.codehaus.stax2.typed.TypedValueDecoder;
import org.vinecellar.core.formats.Seconds;

/**
 * The value of an attribute where it lies in the tokenizer's buffer, without blanks around it, good
 * until the next one. Most values are a duration, or a name that the case before had too: neither
 * needs a text of its own.
 */
public final class AttributeText extends TypedValueDecoder {
  private static final int SHOWN = 40;

  private final TextReader texts;
  private char[] buffer = new char[0];
  private int start;
  private int end;

  /** What a value was last compared with, and its letters: mostly it is the same again. */
  private String lastKnown = "";

  private char[] lastChars = new char[0];

  /** On the texts of a file. */
  public AttributeText(TextReader texts) {
    this.texts = texts;
  }

  @Override
  public void decode(char[] chars, int from, int to) {
    buffer = chars;
    start = from;
    end = to;
  }

  @Override
  public void decode(String input) {
    decode(input.toCharArray(), 0, input.length());
  }

  @Override
  public void handleEmptyValue() {
    start = 0;
    end = 0;
  }

  /** Whether there is nothing in it but blanks. */
  public boolean isBlank() {
    return start == end;
  }

  /** The value as a name, checked against its limit. */
  public String text(String attribute) {
    return texts.bounded(attribute, new String(buffer, start, end - start));
  }

  /** The same; the known text itself when it is equal. */
  public String textOr(String attribute, String known) {
    return isText(known) ? known : text(attribute);
  }

  private boolean isText(String known) {
    if (known.length() != end - start) {
      return false;
    }
    if (!known.equals(lastKnown)) {
      lastKnown = known;
      lastChars = known.toCharArray();
    }
    return Arrays.equals(buffer, start, end, lastChars, 0, lastChars.length);
  }

  /** The value as a duration, or {@code NO_DURATION}. */
  public long micros() {
    return Seconds.toMicros(buffer, start, end);
  }

  /** The value for a message: cut when it is long. */
  public String shown() {
    int to = Math.min(end, start + SHOWN);
    return texts.restored(new String(buffer, start, to - start)) + (to < end ? "…" : "");
  }
}
