package org.vinecellar.core.formats;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Locale;

/**
 * The beginning of a file, as bytes and as text.
 *
 * @param text decoded by its byte order mark, else as UTF-8; wrong bytes become U+FFFD
 * @param whole whether this is the whole file
 */
public record FileHead(String text, boolean whole) {
  /** How many bytes are looked at. */
  public static final int LENGTH = 8192;

  static FileHead of(byte[] bytes, int length, boolean whole) {
    Charset charset = StandardCharsets.UTF_8;
    if (length >= 2 && (bytes[0] & 0xFF) == 0xFE && (bytes[1] & 0xFF) == 0xFF) {
      charset = StandardCharsets.UTF_16BE;
    } else if (length >= 2 && (bytes[0] & 0xFF) == 0xFF && (bytes[1] & 0xFF) == 0xFE) {
      charset = StandardCharsets.UTF_16LE;
    }
    String text = new String(bytes, 0, length, charset);
    if (!text.isEmpty() && text.charAt(0) == '\uFEFF') {
      text = text.substring(1);
    }
    return new FileHead(text.strip(), whole);
  }

  /** Whether there is nothing in it but white space. */
  public boolean isBlank() {
    return text.isEmpty();
  }

  /** Whether it looks like markup of any kind. */
  public boolean isMarkup() {
    return text.startsWith("<");
  }

  /** Whether it is a web page, as a login or error page saved in place of the file is. */
  public boolean isHtml() {
    String lower = text.substring(0, Math.min(text.length(), 1000)).toLowerCase(Locale.ROOT);
    return lower.startsWith("<!doctype html")
        || lower.startsWith("<html")
        || (lower.startsWith("<?xml") && lower.contains("<html"));
  }

  /** The page's title; empty when it has none. */
  public String htmlTitle() {
    String lower = text.toLowerCase(Locale.ROOT);
    int open = lower.indexOf("<title>");
    int close = lower.indexOf("</title>", Math.max(open, 0));
    if (open < 0 || close < 0) {
      return "";
    }
    String title = text.substring(open + 7, close).strip();
    return title.length() > 80 ? title.substring(0, 80) + "…" : title;
  }

  /** The first characters, on one line, for messages. */
  public String excerpt() {
    String line = text.substring(0, Math.min(text.length(), 40)).replaceAll("\\p{Cntrl}", " ");
    return line.length() < text.length() ? line + "…" : line;
  }
}
