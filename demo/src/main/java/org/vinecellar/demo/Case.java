package org.vinecellar.demo;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What one test did on one night.
 *
 * @param failure null when it passed or was skipped
 * @param skipped the reason; null when it was not skipped
 * @param retries failures of the tries before the last one
 * @param output what it printed; null for nothing
 */
record Case(
    String name,
    double seconds,
    @Nullable Failure failure,
    @Nullable String skipped,
    List<Failure> retries,
    @Nullable String output) {

  /** What went wrong. */
  record Failure(boolean error, String type, String message, String trace) {}

  static Case passed(String name, double seconds) {
    return new Case(name, seconds, null, null, List.of(), null);
  }

  Case failing(Failure why) {
    return new Case(name, seconds, why, null, retries, output);
  }

  Case retriedAfter(Failure why) {
    return new Case(name, seconds, failure, skipped, List.of(why), output);
  }

  Case skippedFor(String reason) {
    return new Case(name, 0, null, reason, List.of(), null);
  }

  Case printing(String text) {
    return new Case(name, seconds, failure, skipped, retries, text);
  }

  Case taking(double time) {
    return new Case(name, time, failure, skipped, retries, output);
  }
}
