package org.vinecellar.service.web;

/** Texts in tables that spreadsheets open. */
public final class SheetText {
  private SheetText() {}

  /** A text that a spreadsheet would take for a formula is a text all the same. */
  public static String harmless(String text) {
    return !text.isEmpty() && "=+-@\t\r".indexOf(text.charAt(0)) >= 0 ? "'" + text : text;
  }
}
