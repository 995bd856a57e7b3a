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
 * @param screen what was to be seen at the end; null when no picture was taken
 */
record Case(
    String name,
    double seconds,
    @Nullable Failure failure,
    @Nullable String skipped,
    List<Failure> retries,
    @Nullable String output,
    @Nullable Screen screen) {

  /**
   * What went wrong.
   *
   * @param screen what was to be seen then; null when no picture was taken
   */
  record Failure(
      boolean error, String type, String message, String trace, @Nullable Screen screen) {
    Failure(boolean error, String type, String message, String trace) {
      this(error, type, message, trace, null);
    }

    Failure showing(Screen seen) {
      return new Failure(error, type, message, trace, seen);
    }
  }

  static Case passed(String name, double seconds) {
    return new Case(name, seconds, null, null, List.of(), null, null);
  }

  Case named(String other) {
    return new Case(other, seconds, failure, skipped, retries, output, screen);
  }

  Case failing(Failure why) {
    return new Case(name, seconds, why, null, retries, output, screen);
  }

  Case retriedAfter(Failure why) {
    return new Case(name, seconds, failure, skipped, List.of(why), output, screen);
  }

  Case skippedFor(String reason) {
    return new Case(name, 0, null, reason, List.of(), null, null);
  }

  Case printing(String text) {
    return new Case(name, seconds, failure, skipped, retries, text, screen);
  }

  Case taking(double time) {
    return new Case(name, time, failure, skipped, retries, output, screen);
  }

  Case showing(Screen seen) {
    return new Case(name, seconds, failure, skipped, retries, output, seen);
  }
}
