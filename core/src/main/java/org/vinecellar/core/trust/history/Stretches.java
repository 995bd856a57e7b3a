package org.vinecellar.core.trust.history;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Runs one after another in which a test failed, or passed only when it was tried again. */
public final class Stretches {
  private Stretches() {}

  /**
   * @param results what it did, the latest first
   * @return the latest first; what tells nothing, as where it was skipped, ends none
   */
  public static List<Moment> of(List<PastResult> results) {
    List<Moment> all = new ArrayList<>();
    PastResult first = null;
    PastResult last = null;
    int runs = 0;
    for (int i = results.size() - 1; i >= 0; i--) {
      PastResult one = results.get(i);
      if (!one.tells()) {
        continue;
      }
      Moment.Kind kind = kind(one);
      if (last != null && kind != kind(last)) {
        add(all, first, last, runs, false);
        runs = 0;
      }
      if (runs == 0) {
        first = one;
      }
      runs++;
      last = one;
    }
    if (last != null) {
      add(all, first, last, runs, true);
    }
    Collections.reverse(all);
    return all;
  }

  private static Moment.@Nullable Kind kind(PastResult one) {
    if (one.failed()) {
      return Moment.Kind.FAILED;
    }
    return one.passedOnRetry() ? Moment.Kind.RETRIED : null;
  }

  private static void add(
      List<Moment> all, @Nullable PastResult first, PastResult last, int runs, boolean goesOn) {
    Moment.Kind kind = kind(last);
    if (kind != null && first != null) {
      all.add(
          new Moment(
              first.run().started(),
              kind,
              null,
              new Moment.Where(first.run().stream(), first.run().number(), first.result()),
              new Moment.Stretch(runs, last.run().number(), goesOn),
              null,
              null,
              null,
              null));
    }
  }
}
