package org.vinecellar.core.boards;

import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * How often each of many tests failed, counted run by run. Takes few bytes of each: it is asked of
 * all failures of months. Not thread-safe.
 */
public final class FailureTally {
  /** Different ones at most. */
  private static final int MOST = 1_000_000;

  private static final int FIRST = 1024;

  /** Open addressing; 0 is free. */
  private long[] keys = new long[FIRST];

  private int[] failed = new int[FIRST];
  private int[] errored = new int[FIRST];
  private int[] runs = new int[FIRST];
  private int size;

  /** Most failures first; of as many, the lower key. */
  private static final Comparator<Counted> ORDER =
      Comparator.comparingLong(Counted::failing)
          .reversed()
          .thenComparing(Comparator.comparingLong(Counted::key));

  /**
   * What was counted of one.
   *
   * @param runs in how many it failed
   */
  public record Counted(long key, int failed, int errored, int runs) {
    long failing() {
      return (long) failed + errored;
    }
  }

  /** Takes each. */
  @FunctionalInterface
  public interface Each {
    /** What was counted of one. */
    void counted(long key, int failed, int errored, int runs);
  }

  /**
   * Counts some more.
   *
   * @param key of what; not 0
   * @throws CellarException {@code TOO_MUCH_TO_SEARCH} when there are too many different ones
   */
  public void add(long key, int moreFailed, int moreErrored, int moreRuns) {
    int at = at(keys, key);
    if (keys[at] == 0) {
      if (size == MOST) {
        throw new CellarException(
            ProblemCode.TOO_MUCH_TO_SEARCH,
            "more than "
                + MOST
                + " tests failed there; ask for a shorter period, or for fewer streams");
      }
      if (size >= keys.length / 2) {
        grow();
        at = at(keys, key);
      }
      keys[at] = key;
      size++;
    }
    failed[at] += moreFailed;
    errored[at] += moreErrored;
    runs[at] += moreRuns;
  }

  private static int at(long[] keys, long key) {
    int mask = keys.length - 1;
    long mixed = key * 0x9E3779B97F4A7C15L;
    int at = (int) (mixed >>> 32) & mask;
    while (keys[at] != 0 && keys[at] != key) {
      at = (at + 1) & mask;
    }
    return at;
  }

  private void grow() {
    long[] more = new long[keys.length * 2];
    int[] moreFailed = new int[more.length];
    int[] moreErrored = new int[more.length];
    int[] moreRuns = new int[more.length];
    for (int i = 0; i < keys.length; i++) {
      if (keys[i] != 0) {
        int at = at(more, keys[i]);
        more[at] = keys[i];
        moreFailed[at] = failed[i];
        moreErrored[at] = errored[i];
        moreRuns[at] = runs[i];
      }
    }
    keys = more;
    failed = moreFailed;
    errored = moreErrored;
    runs = moreRuns;
  }

  /** All that was counted, in no order. */
  public void forEach(Each each) {
    for (int i = 0; i < keys.length; i++) {
      if (keys[i] != 0) {
        each.counted(keys[i], failed[i], errored[i], runs[i]);
      }
    }
  }

  /** What was counted, in ascending order. */
  public long[] keys() {
    return Arrays.stream(keys).filter(key -> key != 0).sorted().toArray();
  }

  /** Those that failed most often, the first of them first. */
  public List<Counted> most(int limit) {
    PriorityQueue<Counted> most = new PriorityQueue<>(ORDER.reversed());
    forEach(
        (key, f, e, r) -> {
          most.add(new Counted(key, f, e, r));
          if (most.size() > limit) {
            most.remove();
          }
        });
    return most.stream().sorted(ORDER).toList();
  }
}
