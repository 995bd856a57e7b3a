package org.vinecellar.core.quarantine.runners;

/** Texts in patterns, where nothing of them means anything but itself. */
final class Quoted {
  private static final String SPECIAL = "\\^$.|?*+()[]{}";

  private Quoted() {}

  /** For expressions as in ECMAScript, Ruby, Perl and CMake. */
  static String regex(String text) {
    StringBuilder quoted = new StringBuilder();
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (SPECIAL.indexOf(c) >= 0) {
        quoted.append('\\');
      }
      quoted.append(c);
    }
    return quoted.toString();
  }

  /** For those of Go, with what its runner takes apart before. */
  static String re2(String text) {
    return regex(text).replace("\\|", "[|]");
  }
}
