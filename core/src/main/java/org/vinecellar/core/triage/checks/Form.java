package org.vinecellar.core.triage.checks;

import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * A spelling in which checks name something: {@code *} of the kind, the first group that matched is
 * the name.
 *
 * @param needs a part without which a text need not be searched; several between bars. What begins
 *     with {@code ^} must begin a line
 */
record Form(Subject.Kind kind, String[] needs, Pattern pattern) {
  /** Begins a part that begins a line. */
  static final char LINE = '^';

  static Form of(Subject.Kind kind, String needs, String regex) {
    return new Form(kind, needs.split("\\|"), Pattern.compile(regex, Pattern.MULTILINE));
  }

  /** The name in a text; null when the spelling is another. */
  @Nullable String in(String text) {
    return in(text, name -> true);
  }

  /** The first name that may be one. */
  @Nullable String in(String text, Predicate<String> isName) {
    for (String part : needs) {
      if (isIn(text, part)) {
        Matcher matcher = pattern.matcher(text);
        int from = 0;
        for (int i = 0; i < 20 && matcher.find(from); i++) {
          String name = group(matcher);
          if (name != null && isName.test(name)) {
            return name;
          }
          from = matcher.start() + 1;
        }
        return null;
      }
    }
    return null;
  }

  private static boolean isIn(String text, String part) {
    if (part.charAt(0) != LINE) {
      return text.contains(part);
    }
    int length = part.length() - 1;
    for (int at = text.indexOf(part.substring(1)); at >= 0; ) {
      if (at == 0 || text.charAt(at - 1) == '\n') {
        return true;
      }
      at = text.indexOf(part.substring(1), at + length);
    }
    return false;
  }

  private static @Nullable String group(Matcher matcher) {
    for (int i = 1; i <= matcher.groupCount(); i++) {
      String found = matcher.group(i);
      if (found != null && !found.isBlank()) {
        return found.strip();
      }
    }
    return null;
  }
}
