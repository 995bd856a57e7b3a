package org.vinecellar.service.guard;

import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.problem.TryLaterException;

/**
 * Room for so many answers that hold a thread until their reader has taken them. A place that
 * nobody gave back is free again after a while. Thread-safe.
 */
public final class Places {
  private static final Duration LATER = Duration.ofSeconds(2);
  private static final Duration LONGEST = Duration.ofMinutes(10);

  private final String what;
  private final int most;
  private final Map<Object, Long> taken = new HashMap<>();

  /**
   * @param what takes them, for the message: “boards”
   */
  public Places(String what, int most) {
    this.what = what;
    this.most = most;
  }

  /**
   * Takes a place.
   *
   * @return by which it is given back
   * @throws TryLaterException {@code TOO_MANY_AT_ONCE}
   */
  public synchronized Object take() {
    long now = System.nanoTime();
    taken.values().removeIf(since -> now - since > LONGEST.toNanos());
    if (taken.size() >= most) {
      throw new TryLaterException(
          ProblemCode.TOO_MANY_AT_ONCE,
          "too many read " + what + " at once; try again in a moment",
          LATER);
    }
    Object place = new Object();
    taken.put(place, now);
    return place;
  }

  /** Gives one back; twice is once. */
  public synchronized void giveBack(Object place) {
    taken.remove(place);
  }
}
