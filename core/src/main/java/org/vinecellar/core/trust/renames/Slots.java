package org.vinecellar.core.trust.renames;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Between which tests that both runs have each of the others stands. */
final class Slots {
  /** The tests before and after one that both runs have; null at an end. */
  record Slot(@Nullable Long before, @Nullable Long after) {}

  private final Map<Long, Slot> slots = new HashMap<>();

  /** Whether the order of the tests that both have is mostly the same. */
  private final boolean isOrdered;

  Slots(List<Long> old, List<Long> now) {
    Set<Long> both = new HashSet<>(old);
    both.retainAll(new HashSet<>(now));
    enter(old, both);
    enter(now, both);
    isOrdered = isOrdered(old, now, both);
  }

  private void enter(List<Long> order, Set<Long> both) {
    Map<Long, Long> before = new HashMap<>();
    Long last = null;
    for (Long test : order) {
      if (both.contains(test)) {
        last = test;
      } else if (last != null) {
        before.put(test, last);
      }
    }
    Long next = null;
    for (int i = order.size() - 1; i >= 0; i--) {
      Long test = order.get(i);
      if (both.contains(test)) {
        next = test;
      } else {
        slots.put(test, new Slot(before.get(test), next));
      }
    }
  }

  /** By how many that follow each other in one follow each other in the other. */
  private static boolean isOrdered(List<Long> old, List<Long> now, Set<Long> both) {
    Map<Long, Long> follows = new HashMap<>();
    Long last = null;
    for (Long test : old) {
      if (both.contains(test)) {
        if (last != null) {
          follows.put(last, test);
        }
        last = test;
      }
    }
    int kept = 0;
    last = null;
    for (Long test : now) {
      if (both.contains(test)) {
        kept += last != null && test.equals(follows.get(last)) ? 1 : 0;
        last = test;
      }
    }
    return kept * 3 >= both.size() * 2;
  }

  boolean isOrdered() {
    return isOrdered;
  }

  /** Of how many of the tests around them two have the same: from 0 to 2. */
  int inCommon(long old, long now) {
    Slot one = slots.get(old);
    Slot other = slots.get(now);
    if (one == null || other == null) {
      return 0;
    }
    return (Objects.equals(one.before, other.before) ? 1 : 0)
        + (Objects.equals(one.after, other.after) ? 1 : 0);
  }
}
