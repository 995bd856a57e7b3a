package org.vinecellar.core.triage.rules;

import java.util.ArrayDeque;
import java.util.Deque;

/**
 * How large a regular expression becomes when its counted repetitions are written out, as compiling
 * does: {@code (a{9}){9}} is some 80 steps. Told before it is compiled; what is not well formed is
 * left to the compiler to refuse.
 */
final class PatternSize {
  private static final long TOO_MANY = 1_000_000_000L;

  private final String text;
  private final Deque<long[]> outer = new ArrayDeque<>();
  private int at;

  /** Of what was read inside this bracket, and of the last thing of that. */
  private long[] here = {0, 0};

  private PatternSize(String text) {
    this.text = text;
  }

  static long of(String text) {
    return new PatternSize(text).read();
  }

  private long read() {
    while (at < text.length()) {
      char c = text.charAt(at);
      switch (c) {
        case '\\' -> escaped();
        case '[' -> charClass();
        case '(' -> {
          at++;
          outer.push(here);
          here = new long[] {0, 0};
        }
        case ')' -> {
          at++;
          long inside = sum() + 1;
          here = outer.isEmpty() ? new long[] {0, 0} : outer.pop();
          next(inside);
        }
        case '{' -> repeated();
        default -> {
          at++;
          next(1);
        }
      }
    }
    while (!outer.isEmpty()) {
      long inside = sum();
      here = outer.pop();
      next(inside);
    }
    return sum();
  }

  private long sum() {
    return Math.min(TOO_MANY, here[0] + here[1]);
  }

  private void next(long size) {
    here[0] = sum();
    here[1] = size;
  }

  private void escaped() {
    boolean quoted = text.startsWith("\\Q", at);
    boolean named =
        text.startsWith("\\p{", at) || text.startsWith("\\P{", at) || text.startsWith("\\x{", at);
    int end = quoted ? text.indexOf("\\E", at) + 2 : named ? text.indexOf('}', at) + 1 : at + 2;
    int to = end <= at + 1 ? text.length() : Math.min(end, text.length());
    if (quoted) {
      next(to - at);
    }
    next(1);
    at = to;
  }

  private void charClass() {
    at = afterClass(text, at);
    next(1);
  }

  /** Where a class ends that begins there: {@code [^]a-z[:digit:]\\]]}. */
  static int afterClass(String text, int from) {
    int i = from + 1;
    if (i < text.length() && text.charAt(i) == '^') {
      i++;
    }
    if (i < text.length() && text.charAt(i) == ']') {
      i++;
    }
    while (i < text.length() && text.charAt(i) != ']') {
      if (text.startsWith("[:", i) && text.indexOf(":]", i) > 0) {
        i = text.indexOf(":]", i) + 1;
      } else if (text.charAt(i) == '\\') {
        i++;
      }
      i++;
    }
    return Math.min(text.length(), i + 1);
  }

  /** {@code {n}}, {@code {n,}} or {@code {n,m}}; anything else is a character. */
  private void repeated() {
    int end = text.indexOf('}', at);
    String inside = end < 0 ? "" : text.substring(at + 1, end);
    if (!inside.matches("[0-9]{1,5}(,[0-9]{0,5})?")) {
      at++;
      next(1);
      return;
    }
    int comma = inside.indexOf(',');
    long least = Long.parseLong(comma < 0 ? inside : inside.substring(0, comma));
    long most =
        comma < 0
            ? least
            : comma == inside.length() - 1
                ? least + 1
                : Long.parseLong(inside.substring(comma + 1));
    here[1] = Math.min(TOO_MANY, here[1] * Math.max(1, Math.max(least, most)));
    at = end + 1;
  }
}
