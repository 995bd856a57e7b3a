package org.vinecellar.core.traces;

import java.util.List;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What an assertion wanted and what it got, as its message tells.
 *
 * @param expected without the marks that the framework puts around it
 * @param actual without the marks that the framework puts around it
 */
public record Comparison(String expected, String actual) {
  /** Longer messages are not searched. */
  private static final int MAX_CHARS = 20_000;

  /** Checks nulls. */
  public Comparison {
    Objects.requireNonNull(expected);
    Objects.requireNonNull(actual);
  }

  private record Form(Pattern pattern, boolean expectedFirst) {
    static Form of(String regex, boolean expectedFirst) {
      return new Form(Pattern.compile(regex, Pattern.DOTALL), expectedFirst);
    }
  }

  /** The spellings of assertion libraries; the first that fits is taken. */
  private static final List<Form> FORMS =
      List.of(
          Form.of("expected: ?<(.*?)> but was: ?<(.*?)>(?:\\s|$)", true),
          Form.of("expected \\[(.*?)\\] but found \\[(.*?)\\](?:\\s|$)", true),
          Form.of("(?:^|\n)\\s*expected: ?(.*?)\n\\s*but was: ?(.*?)(?:\n\\s*at |\n\n|$)", true),
          Form.of("Expecting actual:\n(.*?)\nto be equal to:\n(.*?)\n", false),
          Form.of("(?:^|\n)\\s*Expected: ([^\n]*)\n+\\s*Received: ([^\n]*)", true),
          Form.of("Expected: ([^\n]*)\n\\s*(?:but: was|Actual:|Got:|got:|But was:) ([^\n]*)", true),
          Form.of("Which is: ([^\n]*)\n.*?Which is: ([^\n]*)", true),
          Form.of(
              "Failed asserting that (.{1,2000}?) (?:matches expected|is identical to|equals) (.{1,2000}?)\\.(?:\n|$)",
              false),
          Form.of(
              "(?:^|\n)E? *(?:AssertionError: )?assert ([^\n]{1,2000}?) == ([^\n]{1,2000})", false),
          Form.of("(?:equal|deep-equal)[^\n]*:\n\n([^\n]+?) !==? ([^\n]+)", false),
          Form.of("\\bgot ([^\n]{1,500}?)[,;] want(?:ed)? ([^\n]{1,500})", false),
          Form.of("\\bexpected ([^\n]{1,500}?),? (?:but )?got:? ([^\n]{1,500})", true));

  /**
   * Finds the two values in a message.
   *
   * @return null when the message has no form that is known
   */
  public static @Nullable Comparison in(String message) {
    String text = message.length() > MAX_CHARS ? message.substring(0, MAX_CHARS) : message;
    for (Form form : FORMS) {
      Matcher matcher = form.pattern().matcher(text);
      if (matcher.find()) {
        String first = matcher.group(1).strip();
        String second = matcher.group(2).strip();
        return form.expectedFirst() ? new Comparison(first, second) : new Comparison(second, first);
      }
    }
    return null;
  }
}
