package org.vinecellar.core.triage.reading;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.reading.FrameReader.Read;

/**
 * Places of languages whose code lives in an image or a database, and has no file: Smalltalk, Lisp
 * and what runs inside of a database. Whose they are is told by a class or package, which stands as
 * the path, behind {@value Frame#OF_IMAGE}.
 */
final class ImageStacks {
  /** {@code Array(SequenceableCollection)>>do:}, {@code [ … ] in Fares>>priced: (Fares.st:12)}. */
  private static final Pattern SENT =
      Pattern.compile(
          "^(?:\\[.{0,200}\\] in )?(?:[A-Z]\\w{0,100}(?: class)?\\()?([A-Z]\\w{0,100})(?: class)?\\)?>>#?([\\w:+*/<>=~,@%|&?!\\\\-]{1,200})(?: ?\\([^()]{0,200}\\))?$");

  /** {@code 1: (FARES::PRICED #<BERTH 3>)}, {@code 1: FARES:PRICED}. */
  private static final Pattern CALLED =
      Pattern.compile(
          "^\\d{1,3}: \\(*([A-Z0-9*+/<>=.!?_%&$-]{1,100})::?([A-Z0-9*+/<>=.!?_%&$-]{1,100})(?:[ )].*)?$");

  /** {@code 3: ((LAMBDA () :IN FARES-TESTS))}, and other functions without a name. */
  private static final Pattern NAMELESS =
      Pattern.compile("^\\d{1,3}: \\(+(?:LAMBDA|FLET|LABELS|MACROLET)\\b.*$");

  /** {@code ORA-06512: at "SKERROW.FARES.PRICED", line 12}. */
  private static final Pattern STORED =
      Pattern.compile(
          "^(?:[A-Z]{2,4}-\\d{4,5}: )?at \"([\\w$#]{1,128}(?:\\.[\\w$#]{1,128}){1,3})\", line (\\d{1,7})(?: .*)?$");

  private ImageStacks() {}

  /** A message of Smalltalk that was sent; others take such a line for something else. */
  static @Nullable Read sent(String line) {
    Matcher sent = line.contains(">>") ? SENT.matcher(line) : null;
    return sent != null && sent.matches()
        ? of(sent.group(1), sent.group(2).replace(":", ""), 0)
        : null;
  }

  /** The others, which nobody else takes for a place. */
  static @Nullable Read read(String line) {
    if (line.length() > 500) {
      return null;
    }
    char first = line.charAt(0);
    if (first >= '0' && first <= '9') {
      return called(line);
    }
    Matcher stored = line.contains("at \"") ? STORED.matcher(line) : null;
    return stored != null && stored.matches()
        ? stored(stored.group(1), Integer.parseInt(stored.group(2)))
        : null;
  }

  private static Read stored(String name, int line) {
    String schema = name.substring(0, name.indexOf('.'));
    return new Read(Frame.of(name, Frame.OF_IMAGE + schema, line), false);
  }

  private static @Nullable Read called(String line) {
    Matcher called = CALLED.matcher(line);
    if (called.matches()) {
      return of(called.group(1), called.group(2), 0);
    }
    return NAMELESS.matcher(line).matches() ? of("", "", 0) : null;
  }

  private static Read of(String home, String function, int line) {
    String qualified = function.isEmpty() ? "" : home.replace('/', '.') + "." + function;
    return new Read(Frame.of(qualified, Frame.OF_IMAGE + home, line), false);
  }
}
