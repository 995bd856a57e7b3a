package org.vinecellar.core.traces;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import java.util.BitSet;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.phrases.PhraseTable;
import org.vinecellar.core.results.TerminalCodes;

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

  /**
   * One spelling. Messages are anybody's text, so the engine is one that takes linear time.
   *
   * @param needs a word without which a message need not be searched
   */
  private record Form(String needs, Pattern pattern, boolean expectedFirst) {
    static Form expectedFirst(String needs, String regex) {
      return new Form(needs, Pattern.compile(regex, Pattern.DOTALL), true);
    }

    static Form actualFirst(String needs, String regex) {
      return new Form(needs, Pattern.compile(regex, Pattern.DOTALL), false);
    }
  }

  /** The spellings of assertion libraries; the first that fits is taken. */
  private static final List<Form> FORMS =
      List.of(
          Form.expectedFirst("but was", "expected: ?<(.*?)> but was: ?<(.*?)>(?:\\s|$)"),
          Form.expectedFirst("but found", "expected \\[(.*?)\\] but found \\[(.*?)\\](?:\\s|$)"),
          Form.expectedFirst(
              "but was", "(?:^|\n)\\s*expected: ?(.*?)\n\\s*but was: ?(.*?)(?:\n\\s*at |\n\n|$)"),
          Form.actualFirst("to be equal to", "Expecting actual:\n(.*?)\nto be equal to:\n(.*?)\n"),
          Form.expectedFirst(
              "Received:", "(?:^|\n)\\s*Expected: ([^\n]*)\n+\\s*Received: ([^\n]*)"),
          Form.expectedFirst(
              "Expected: ",
              "Expected: ([^\n]*)\n\\s*(?:but: was|Actual:|Got:|got:|But was:) ([^\n]*)"),
          Form.expectedFirst("Which is: ", "Which is: ([^\n]*)\n.*?Which is: ([^\n]*)"),
          Form.actualFirst(
              "Failed asserting that",
              "Failed asserting that ([^\n]+?) (?:matches expected|is identical to|equals)"
                  + " ([^\n]+?)\\.(?:\n|$)"),
          Form.actualFirst(
              "assert ", "(?:^|\n)E? *(?:AssertionError: )?assert ([^\n]+?) == ([^\n]+)"),
          Form.actualFirst("equal", "(?:equal|deep-equal)[^\n]*:\n\n([^\n]+?) !==? ([^\n]+)"),
          Form.actualFirst("got: ", "(?:^|\n)\\s*got: ([^\n]*)\n\\s*expected: ([^\n]*)"),
          Form.actualFirst("got", "\\bgot ([^\n]+?)[,;] want(?:ed)? ([^\n]+)"),
          Form.expectedFirst("got", "\\bexpected ([^\n]+?),? (?:but )?got:? ([^\n]+)"));

  private static final PhraseTable NEEDS = PhraseTable.of(FORMS.stream().map(Form::needs).toList());

  /**
   * Finds the two values in a message.
   *
   * @return null when the message has no form that is known
   */
  public static @Nullable Comparison in(String message) {
    String bounded = message.length() > MAX_CHARS ? message.substring(0, MAX_CHARS) : message;
    String text = TerminalCodes.removed(bounded);
    BitSet may = new BitSet();
    NEEDS.search(text, (phrase, end) -> may.set(phrase));
    for (int i = may.nextSetBit(0); i >= 0; i = may.nextSetBit(i + 1)) {
      Form form = FORMS.get(i);
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
