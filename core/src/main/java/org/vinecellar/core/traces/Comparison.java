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

  /** Finds the two values in a text, in the order in which they stand there. */
  private interface Finder {
    String @Nullable [] in(String text);
  }

  /**
   * One spelling. Messages are anybody's text, so it is found in linear time.
   *
   * @param needs a word without which a message need not be searched
   */
  private record Form(String needs, Finder finder, boolean expectedFirst) {
    static Form expectedFirst(String needs, String regex) {
      return new Form(needs, matched(regex), true);
    }

    static Form actualFirst(String needs, String regex) {
      return new Form(needs, matched(regex), false);
    }

    private static Finder matched(String regex) {
      Pattern pattern = Pattern.compile(regex, Pattern.DOTALL);
      return text -> {
        Matcher matcher = pattern.matcher(text);
        return matcher.find() ? new String[] {matcher.group(1), matcher.group(2)} : null;
      };
    }
  }

  /** JUnit's {@code expected: <3> but was: <4>}, with or without blanks. */
  private static String @Nullable [] inAngles(String text) {
    for (int at = text.indexOf("expected:"); at >= 0; at = text.indexOf("expected:", at + 1)) {
      int start = afterAngle(text, at + 9);
      int middle = start < 0 ? -1 : text.indexOf("> but was:", start);
      while (middle >= 0 && afterAngle(text, middle + 10) < 0) {
        middle = text.indexOf("> but was:", middle + 1);
      }
      int second = middle < 0 ? -1 : afterAngle(text, middle + 10);
      for (int end = second < 0 ? -1 : text.indexOf('>', second);
          end >= 0;
          end = text.indexOf('>', end + 1)) {
        if (end + 1 == text.length() || isBlank(text.charAt(end + 1))) {
          return new String[] {text.substring(start, middle), text.substring(second, end)};
        }
      }
      if (start >= 0) {
        return null;
      }
    }
    return null;
  }

  /** Behind a bracket that stands here or behind one blank; less than zero for none. */
  private static int afterAngle(String text, int at) {
    int bracket = at < text.length() && text.charAt(at) == ' ' ? at + 1 : at;
    return bracket < text.length() && text.charAt(bracket) == '<' ? bracket + 1 : -1;
  }

  private static boolean isBlank(char c) {
    return c == ' ' || c == '\t' || c == '\n' || c == '\f' || c == '\r';
  }

  /** What stands between three texts, the last of which may be the end. */
  private static Finder between(String first, String second, String third) {
    return text -> {
      int at = text.indexOf(first);
      int start = at + first.length();
      int middle = at < 0 ? -1 : text.indexOf(second, start);
      if (middle < 0) {
        return null;
      }
      int from = middle + second.length();
      int end = text.indexOf(third, from);
      return new String[] {
        text.substring(start, middle), end < 0 ? text.substring(from) : text.substring(from, end)
      };
    };
  }

  /** The spellings of assertion libraries; the first that fits is taken. */
  private static final List<Form> FORMS =
      List.of(
          new Form("but was", Comparison::inAngles, true),
          Form.expectedFirst("but found", "expected \\[(.*?)\\] but found \\[(.*?)\\](?:\\s|$)"),
          Form.expectedFirst(
              "but was", "(?:^|\n)\\s*expected: ?(.*?)\n\\s*but was: ?(.*?)(?:\n\\s*at |\n\n|$)"),
          new Form(
              "to be equal to", between("Expecting actual:\n", "\nto be equal to:\n", "\n"), false),
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
      String[] found = form.finder().in(text);
      if (found != null) {
        String first = found[0].strip();
        String second = found[1].strip();
        return form.expectedFirst() ? new Comparison(first, second) : new Comparison(second, first);
      }
    }
    return null;
  }
}
