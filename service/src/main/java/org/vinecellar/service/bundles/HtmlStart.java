package org.vinecellar.service.bundles;

import java.nio.charset.StandardCharsets;
import java.util.Locale;

/**
 * Finds where the first script of a page may stand: behind its document type (without which it
 * would be laid out as in 1998), before everything else. Source: the tree construction of the HTML
 * standard, its first two modes.
 */
final class HtmlStart {
  /** So much of a page is looked at. */
  static final int LOOKED_AT = 16 << 10;

  private final String text;
  private int at;

  private HtmlStart(String text) {
    this.text = text;
  }

  /** The offset in bytes; -1 when there is no telling. */
  static int of(byte[] first) {
    if (first.length >= 2 && (first[0] & first[1] & 0xFE) == 0xFE) {
      return -1; // UTF-16 by its mark
    }
    return new HtmlStart(new String(first, StandardCharsets.ISO_8859_1)).find();
  }

  private int find() {
    if (text.startsWith("\u00EF\u00BB\u00BF")) {
      at = 3;
    }
    boolean passed = true;
    while (passed) {
      while (at < text.length() && " \t\r\n\f".indexOf(text.charAt(at)) >= 0) {
        at++;
      }
      if (text.length() - at >= 9
          && text.substring(at, at + 9).toLowerCase(Locale.ROOT).equals("<!doctype")) {
        return after(">");
      }
      passed =
          text.startsWith("<!--", at)
              ? after("-->") > 0
              : text.startsWith("<?", at) && after(">") > 0;
    }
    return at;
  }

  private int after(String end) {
    int found = text.indexOf(end, at);
    at = found < 0 ? -1 : found + end.length();
    return at;
  }
}
