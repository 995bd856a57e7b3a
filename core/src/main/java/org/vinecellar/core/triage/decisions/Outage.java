package org.vinecellar.core.triage.decisions;

import java.util.Objects;
import org.vinecellar.core.triage.signature.KeyKind;

/**
 * One cause that fails most of a run.
 *
 * @param results of the run that fail for it
 * @param tests of the run that ran, or were kept from it
 */
public record Outage(
    long group, KeyKind kind, String sentence, String template, int results, int tests) {
  /** Fewer tests are no run that could be out. */
  private static final int LEAST = 10;

  /** Checks nulls. */
  public Outage {
    Objects.requireNonNull(kind);
    Objects.requireNonNull(sentence);
    Objects.requireNonNull(template);
  }

  /**
   * Whether a cause is an outage: it fails more than half of the tests that ran, of ten or more.
   *
   * @param results that fail for it
   * @param ran tests that ran or were kept from it by a set-up that failed; not skipped ones
   */
  public static boolean is(int results, int ran) {
    return results >= LEAST && results * 2L > ran;
  }
}
