package org.vinecellar.core.trust.renames;

import java.util.Collection;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * Cases of one test whose names hold what is made up anew in each run: a random number, a time, an
 * identifier. Each looks like a test that comes and goes.
 */
public final class MadeUp {
  /** So many cases at least come at once. */
  public static final int SOME = 20;

  /** In so many runs at least. */
  private static final int RUNS = 3;

  /** Of those that came before, one in so many may be there again. */
  private static final int AGAIN = 10;

  private static final int LONGEST = 1_000;
  private static final String MARK = "…";

  private MadeUp() {}

  /**
   * What is the same in the names of some cases.
   *
   * @param parameters {@code […]} when they have some; else null
   */
  public record Family(String name, @Nullable String parameters) {
    /** Checks nulls. */
    public Family {
      Objects.requireNonNull(name);
    }
  }

  /**
   * What a case has in common with others: its name with a mark for each word that has a digit in
   * it, and for its parameters.
   *
   * @return null when nothing in it could be made up
   */
  public static @Nullable Family family(String name, @Nullable String parameters) {
    if (name.length() > LONGEST) {
      return null;
    }
    StringBuilder same = new StringBuilder();
    int at = 0;
    while (at < name.length()) {
      int end = at;
      boolean digit = false;
      while (end < name.length() && isOfWord(name, end)) {
        digit |= Character.isDigit(name.charAt(end));
        end++;
      }
      if (end == at) {
        same.append(name.charAt(at));
        at++;
      } else {
        same.append(digit ? MARK : name.substring(at, end));
        at = end;
      }
    }
    String masked = same.toString();
    return parameters == null && masked.equals(name)
        ? null
        : new Family(masked, parameters == null ? null : "[" + MARK + "]");
  }

  /** A hyphen between two of them belongs to a word, as in a UUID or a date. */
  private static boolean isOfWord(String name, int at) {
    char c = name.charAt(at);
    if (Character.isLetterOrDigit(c)) {
      return true;
    }
    return (c == '-' || c == ':')
        && at > 0
        && at + 1 < name.length()
        && Character.isLetterOrDigit(name.charAt(at - 1))
        && Character.isLetterOrDigit(name.charAt(at + 1));
  }

  /**
   * Whether some cases are made up.
   *
   * @param brought how many of them each run brought that brought some, the latest one included
   * @param earlier how many came before the latest run
   * @param again how many of those the latest run has
   */
  public static boolean are(Collection<Integer> brought, int earlier, int again) {
    long runs = brought.stream().filter(cases -> cases >= SOME).count();
    return runs >= RUNS && again * AGAIN <= earlier;
  }
}
