package org.vinecellar.core.formats.xml;

import java.util.Arrays;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.UnreadableFileException;

/** Steps through elements and gathers bounded text. */
public final class TextReader {
  private static final int FIRST_BUFFER = 1 << 12;
  private static final int KEPT_BUFFER = 1 << 16;

  private final XMLStreamReader2 xml;
  private final XmlSanitizer bytes;
  private final ReadLimits limits;
  private char[] buffer = new char[FIRST_BUFFER];
  private int size;

  TextReader(XMLStreamReader2 xml, XmlSanitizer bytes, ReadLimits limits) {
    this.xml = xml;
    this.bytes = bytes;
    this.limits = limits;
  }

  /** Moves to the next child element of the present one, or to its end; true for a child. */
  public boolean nextChild() throws XMLStreamException {
    while (true) {
      switch (xml.next()) {
        case XMLStreamConstants.START_ELEMENT -> {
          return true;
        }
        case XMLStreamConstants.END_ELEMENT -> {
          return false;
        }
        case XMLStreamConstants.ENTITY_REFERENCE -> throw entity();
        default -> {
          // white space, comments and text between elements mean nothing here
        }
      }
    }
  }

  /** Passes over the present element and all that is in it. */
  public void skip() throws XMLStreamException {
    int depth = 1;
    while (depth > 0) {
      int event = xml.next();
      if (event == XMLStreamConstants.START_ELEMENT) {
        depth++;
        if (depth > limits.maxDepth()) {
          throw new UnreadableFileException(
              "nests elements deeper than "
                  + limits.maxDepth()
                  + " at line "
                  + xml.getLocation().getLineNumber());
        }
      } else if (event == XMLStreamConstants.END_ELEMENT) {
        depth--;
      }
    }
  }

  /** Begins to gather the text of the present element. */
  void begin() {
    size = 0;
    if (buffer.length > KEPT_BUFFER) {
      buffer = new char[FIRST_BUFFER];
    }
  }

  /** Adds the text that the reader stands on. */
  void gather() throws XMLStreamException {
    int room = limits.maxTextChars() - size;
    int length = xml.getTextLength();
    if (room > 0) {
      add(xml.getTextCharacters(), xml.getTextStart(), Math.min(room, length));
    }
    if (length > room && room >= 0) {
      String mark = "\n… cut here: longer than " + limits.maxTextChars() + " characters";
      add(mark.toCharArray(), 0, mark.length());
    }
  }

  private void add(char[] text, int from, int length) {
    if (buffer.length - size < length) {
      buffer = Arrays.copyOf(buffer, Math.max(buffer.length * 2, size + length));
    }
    System.arraycopy(text, from, buffer, size, length);
    size += length;
  }

  /** What was gathered, without blank lines around it; null when there is nothing. */
  @Nullable String gathered() {
    int from = 0;
    int to = size;
    int lineStart = 0;
    while (from < to && Character.isWhitespace(buffer[from])) {
      if (buffer[from] == '\n') {
        lineStart = from + 1;
      }
      from++;
    }
    while (to > from && Character.isWhitespace(buffer[to - 1])) {
      to--;
    }
    return from == to ? null : restored(new String(buffer, lineStart, to - lineStart));
  }

  /** The text of the present element, read to its end; null when it is blank. */
  public @Nullable String text() throws XMLStreamException {
    begin();
    int depth = 1;
    while (depth > 0) {
      switch (xml.next()) {
        case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA, XMLStreamConstants.SPACE ->
            gather();
        case XMLStreamConstants.START_ELEMENT -> depth++;
        case XMLStreamConstants.END_ELEMENT -> depth--;
        case XMLStreamConstants.ENTITY_REFERENCE -> throw entity();
        default -> {
          // comments and instructions are no text
        }
      }
    }
    return gathered();
  }

  /** An attribute that is a name; null when it is missing. */
  public @Nullable String name(String attribute) {
    String value = xml.getAttributeValue(null, attribute);
    return value == null ? null : bounded(attribute, value);
  }

  /** A name, checked against its limit. */
  public String bounded(String attribute, String value) {
    if (value.length() > limits.maxNameChars()) {
      throw new UnreadableFileException(
          "has a "
              + attribute
              + " of "
              + value.length()
              + " characters at line "
              + xml.getLocation().getLineNumber()
              + "; at most "
              + limits.maxNameChars()
              + " are taken");
    }
    return restored(value);
  }

  /** Brings back what the sanitizer hid. */
  public String restored(String text) {
    return bytes.restorable() ? XmlSanitizer.restore(text) : text;
  }

  public UnreadableFileException entity() {
    return new UnreadableFileException(
        "uses the entity “"
            + xml.getLocalName()
            + "” at line "
            + xml.getLocation().getLineNumber()
            + "; only the five of XML itself are known, all others are refused");
  }
}
