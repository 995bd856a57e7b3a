package org.vinecellar.core.trust.renames;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * How much speaks for two names being one test's. Each sign adds what it tells, as a logarithm of
 * odds; the numbers were set on simulated streams.
 */
final class Weighing {
  private static final double BEFORE = -2;

  /** A name says its check twice over with so many words. */
  private static final int LONG = 3;

  private static final double ALL_BUT_A_VERB = 0.87;
  private static final Weight NONE = new Weight(-99, List.of());

  private final Names names;
  private final SuiteMoves moves;
  private final Slots slots;

  Weighing(Names names, SuiteMoves moves, Slots slots) {
    this.names = names;
    this.moves = moves;
    this.slots = slots;
  }

  /**
   * @param sum more than 0 when more speaks for it than against it
   */
  record Weight(double sum, List<Reason> reasons) {}

  private static final class Sum {
    private double sum = BEFORE;
    private final List<Reason> reasons = new ArrayList<>();

    void add(double some) {
      sum += some;
    }

    void add(double some, Reason reason) {
      sum += some;
      reasons.add(reason);
    }
  }

  Weight of(Face gone, Face came) {
    if (!gone.variant().equals(came.variant()) || gone.isAnother(came)) {
      return NONE;
    }
    Sum sum = new Sum();
    if (gone.hasSameName(came)) {
      named(gone, came, sum);
    } else {
      worded(gone, came, sum);
    }
    if (!Collections.disjoint(gone.causes(), came.causes())) {
      sum.add(4, Reason.SAME_FAILURES);
    }
    if (gone.file() != null && gone.file().equals(came.file())) {
      sum.add(0.5, Reason.SAME_FILE);
    }
    if (gone.millis() >= 0 && came.millis() >= 0) {
      double ratio = Math.abs(Math.log((gone.millis() + 5) / (came.millis() + 5)));
      if (ratio < 0.4) {
        sum.add(0.4, Reason.SAME_DURATION);
      } else if (ratio > 1.8) {
        sum.add(-0.6);
      }
    }
    return new Weight(sum.sum, sum.reasons);
  }

  /** The name is the same, so that the suite is another one. */
  private void named(Face gone, Face came, Sum sum) {
    sum.add(3, Reason.SAME_NAME);
    if (moves.isOnlyOne(gone)) {
      sum.add(1.5);
    }
    sum.add(names.of(gone).content().size() > 1 ? 1 : -1);
    int together = moves.together(gone, came);
    if (moves.isWay(gone, came)) {
      sum.add(Math.min(3, Math.log(together) / Math.log(2)), Reason.SUITE_MOVED);
    }
    sum.add(2 * alike(gone.suite(), came.suite()));
  }

  private void worded(Face gone, Face came, Sum sum) {
    NameWords old = names.of(gone);
    NameWords now = names.of(came);
    double contained = names.contained(old.content(), now.content());
    if (contained < ALL_BUT_A_VERB && isAnotherVerb(old.content(), now.content())) {
      contained = ALL_BUT_A_VERB;
    }
    double back = names.contained(now.content(), old.content());
    if (contained > 0.999) {
      sum.add(3.2, Reason.SAME_WORDS);
    } else {
      sum.add(Math.max(-5, (contained - 0.75) * 12));
      if (contained > 0.6) {
        sum.reasons.add(Reason.LIKE_WORDS);
      }
    }
    sum.add((back - 0.5) * 3);
    if (!old.marks().equals(now.marks())) {
      sum.add(-5);
    }
    parameters(gone.parameters(), came.parameters(), sum);
    boolean same = gone.suite().equals(came.suite());
    if (!same && moves.isWay(gone, came)) {
      sum.add(-0.5, Reason.SUITE_MOVED);
    } else if (!same) {
      sum.add(-3 + 2 * alike(gone.suite(), came.suite()));
    }
    if (slots.isOrdered() && same) {
      int common = slots.inCommon(gone.id(), came.id());
      if (common == 2) {
        sum.add(1.5, Reason.SAME_PLACE);
      } else {
        sum.add(common == 1 ? 0.5 : -1.5);
      }
    }
  }

  /** Whether they differ in the first word alone, of several. */
  private static boolean isAnotherVerb(List<String> old, List<String> now) {
    return old.size() >= LONG
        && old.size() == now.size()
        && old.subList(1, old.size()).equals(now.subList(1, now.size()));
  }

  private static void parameters(@Nullable String old, @Nullable String now, Sum sum) {
    if (Objects.equals(old, now)) {
      if (old != null) {
        sum.add(1, Reason.SAME_PARAMETERS);
      }
      return;
    }
    Set<String> some = new HashSet<>(NameWords.split(old == null ? "" : old));
    Set<String> others = new HashSet<>(NameWords.split(now == null ? "" : now));
    boolean contained =
        !some.isEmpty()
            && (others.containsAll(some) || some.containsAll(others))
            && !others.isEmpty();
    sum.add(contained ? -0.5 : -4);
  }

  /** What two suites' names have in common, from 0 to 1. */
  private double alike(List<String> some, List<String> others) {
    String one = some.isEmpty() ? "" : some.get(some.size() - 1);
    String other = others.isEmpty() ? "" : others.get(others.size() - 1);
    List<String> ones = NameWords.of(one).content();
    List<String> theirs = NameWords.of(other).content();
    Set<String> both = new HashSet<>(ones);
    both.retainAll(new HashSet<>(theirs));
    Set<String> all = new HashSet<>(ones);
    all.addAll(theirs);
    return all.isEmpty() ? 0 : (double) both.size() / all.size();
  }
}
