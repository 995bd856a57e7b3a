package org.vinecellar.core.runs;

import java.util.regex.Pattern;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** What a stream may be called. */
public final class StreamName {
  private static final int SHOWN = 100;
  private static final int MOST = 250;

  private static final Pattern NAME =
      Pattern.compile("[\\p{L}\\p{N}._-]{1,100}(?:/[\\p{L}\\p{N}._-]{1,100}){0,2}");

  /** Words that mean something else in an address. */
  private static final Pattern DOTS = Pattern.compile("(?:^|/)\\.{1,2}(?:/|$)");

  private StreamName() {}

  /**
   * The same name.
   *
   * @throws CellarException {@code INVALID_VALUE} that names the rule
   */
  public static String checked(String name) {
    if (name.length() > MOST || !NAME.matcher(name).matches() || DOTS.matcher(name).find()) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the stream “"
              + (name.length() <= SHOWN ? name : name.substring(0, SHOWN) + "…")
              + "” is not a name; use one to three words of letters, digits, '.', '_' and '-',"
              + " parted by '/', as in booking-api/nightly, and "
              + MOST
              + " characters at most");
    }
    return name;
  }
}
