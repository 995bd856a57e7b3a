package org.vinecellar.core.triage.rules;

import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Failure;

/**
 * A regular expression that is looked for in what a failure says: its type, its message and its
 * trace, each on lines of their own. The syntax is that of RE2, which takes time in proportion to
 * the text, whatever is written; {@code ^} and {@code $} stand for the ends of a line. Immutable.
 */
public final class RulePattern {
  /** The longest that may be written. */
  public static final int LONGEST = 1_000;

  /** Of a longer text the beginning and the end are looked at; the root stands at one of them. */
  private static final int HEAD = 48_000;

  private static final int TAIL = 16_000;

  /** With each count written out. */
  private static final int MOST_STEPS = 2_000;

  private final Pattern pattern;

  private RulePattern(Pattern pattern) {
    this.pattern = pattern;
  }

  /**
   * Reads one.
   *
   * @throws CellarException {@code INVALID_VALUE}, with what is wrong and where
   */
  public static RulePattern of(String text) {
    if (text.length() > LONGEST) {
      throw invalid("the pattern is longer than " + LONGEST + " characters", null);
    }
    if (PatternSize.of(text) > MOST_STEPS) {
      throw invalid(
          "the pattern repeats too much; with its counts written out it has more than "
              + MOST_STEPS
              + " steps",
          null);
    }
    try {
      return new RulePattern(Pattern.compile(text, Pattern.MULTILINE));
    } catch (PatternSyntaxException e) {
      throw invalid(
          "the pattern “"
              + text
              + "” cannot be read: "
              + e.getDescription()
              + " at “"
              + e.getPattern()
              + "”. It is written as in RE2: no look-ahead and no back-references",
          e);
    } catch (RuntimeException | StackOverflowError e) {
      throw invalid("the pattern cannot be read; write it more simply", e);
    }
  }

  private static CellarException invalid(String message, @Nullable Throwable cause) {
    return new CellarException(ProblemCode.INVALID_VALUE, message, cause);
  }

  /** What a pattern is looked for in. */
  public static String text(Failure failure) {
    String whole =
        Stream.of(failure.type(), failure.message(), failure.trace())
            .filter(one -> one != null && !one.isEmpty())
            .collect(Collectors.joining("\n"));
    return whole.length() <= HEAD + TAIL
        ? whole
        : whole.substring(0, HEAD) + "\n" + whole.substring(whole.length() - TAIL);
  }

  /** Words of which a text must hold one, in any capitals; empty where none is needed. */
  Optional<Set<String>> needs() {
    return RequiredWords.of(pattern.pattern());
  }

  /** Whether it stands anywhere in such a text. */
  public boolean isIn(String text) {
    return pattern.matcher(text).find();
  }
}
