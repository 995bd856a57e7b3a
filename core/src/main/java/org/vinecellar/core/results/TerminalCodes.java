package org.vinecellar.core.results;

import com.google.re2j.Pattern;

/**
 * The sequences that colour text and move the cursor on a terminal: CSI, OSC and two-character
 * escapes of ECMA-48. In full texts they are kept and drawn; where a text is summed up or compared
 * they only disturb.
 */
public final class TerminalCodes {
  private static final char ESCAPE = '\u001B';
  private static final Pattern CODES =
      Pattern.compile(
          "\u001B(?:\\[[0-?]*[ -/]*[@-~]|\\][^\u0007\u001B]*(?:\u0007|\u001B\\\\)|[@-Z\\\\^_=>])?");

  private TerminalCodes() {}

  /** The text without them; the same text when it has none. */
  public static String removed(String text) {
    return text.indexOf(ESCAPE) < 0 ? text : CODES.matcher(text).replaceAll("");
  }
}
