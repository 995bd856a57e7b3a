package org.vinecellar.core.results;

import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * The identity of a test over all runs: the suites it stands in, its name, its parameters, and its
 * variant.
 *
 * @param parameters what follows the name in brackets, brackets included; null when there are none
 * @param base made from the first three: what a test has in common with itself in other variants
 * @param key made from all four; equal for equal tests, whichever run or machine made it
 */
public record TestId(
    SuitePath suite,
    String name,
    @Nullable String parameters,
    Variant variant,
    Key128 base,
    Key128 key) {

  /** Checks nulls. */
  public TestId {
    Objects.requireNonNull(suite);
    Objects.requireNonNull(name);
    Objects.requireNonNull(variant);
    Objects.requireNonNull(base);
    Objects.requireNonNull(key);
  }

  /** The identity of a test whose parameters, if any, are known apart from its name. */
  public static TestId of(SuitePath suite, String name, @Nullable String parameters) {
    Key128 key = KeyMaker.get().of(suite.key(), name, parameters);
    return new TestId(suite, name, parameters, Variant.NONE, key, key);
  }

  /** The same test in a variant. */
  public TestId in(Variant other) {
    if (other.isNone()) {
      return variant.isNone() ? this : of(suite, name, parameters);
    }
    return new TestId(suite, name, parameters, other, base, KeyMaker.get().of(base, other.words()));
  }

  /** What stands for the set-up of a suite, which has no name of its own. */
  public static TestId setUpOf(SuitePath suite) {
    return of(suite, "(set-up of the suite)", null);
  }

  /**
   * The identity of a test by the name that a framework printed: a trailing {@code […]} or {@code
   * (…)}, or both, is taken as its parameters, as in {@code adds[2-3]} or {@code adds(int)[1]}. An
   * empty {@code ()} belongs to the name.
   */
  public static TestId ofPrinted(SuitePath suite, String printed) {
    int split = parametersStart(printed);
    return split <= 0
        ? of(suite, printed, null)
        : of(suite, printed.substring(0, split), printed.substring(split));
  }

  /** The n-th test of that same name, counted from 2. */
  public TestId repetition(int n) {
    return of(suite, name, (parameters == null ? "" : parameters) + "#" + n).in(variant);
  }

  /** The name as the framework printed it. */
  public String displayName() {
    return parameters == null ? name : name + parameters;
  }

  /** Where the trailing groups of brackets begin that directly follow a word; -1 for none. */
  private static int parametersStart(String text) {
    int end = text.length();
    int start = -1;
    while (end > 0) {
      char close = text.charAt(end - 1);
      char open = close == ']' ? '[' : close == ')' ? '(' : 0;
      if (open == 0) {
        break;
      }
      int at = matching(text, end - 1, open, close);
      if (at <= 0 || at == end - 2 || Character.isWhitespace(text.charAt(at - 1))) {
        break;
      }
      start = at;
      end = at;
    }
    return start;
  }

  private static int matching(String text, int closeAt, char open, char close) {
    int depth = 0;
    for (int i = closeAt; i >= 0; i--) {
      char c = text.charAt(i);
      if (c == close) {
        depth++;
      } else if (c == open && --depth == 0) {
        return i;
      }
    }
    return -1;
  }
}
