package org.vinecellar.core.formats;

import com.google.re2j.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Outcome;

/**
 * Tells an expectation that did not hold from anything else that went wrong, for formats that say
 * “failed” to both: by the class that was thrown, or by the beginning of what it said.
 */
public final class FailureKind {
  private static final int LOOKED_AT = 400;
  private static final Pattern ASSERTION =
      Pattern.compile(
          "(?i)^\\W*(?:Error: )?(?:[\\w$]+(?:\\.|::))*(?:"
              + "\\w*assert\\w*|\\w*Expectation\\w*|MultipleFailuresError|ComparisonFailure"
              + "|expect\\()");

  private FailureKind() {}

  /**
   * Failed for an expectation, else errored.
   *
   * @param type class of what was thrown; null when not told
   * @param text message or trace; null when there is none
   */
  public static Outcome of(@Nullable String type, @Nullable String text) {
    return isAssertion(type) || isAssertion(text) ? Outcome.FAILED : Outcome.ERRORED;
  }

  private static boolean isAssertion(@Nullable String text) {
    if (text == null) {
      return false;
    }
    String plain =
        org.vinecellar.core.results.TerminalCodes.removed(
            text.substring(0, Math.min(text.length(), LOOKED_AT)));
    return ASSERTION.matcher(plain).find();
  }
}
