package org.vinecellar.core.trust.flaky;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What is believed of a test after some runs: a forward filter over what it may be. A test is
 * sound, broken, broken in one environment, flaky at some rate, or flaky in one environment. That
 * changes at commits, see {@link Hazards}; what one run tells is weighed by how likely each of them
 * would show it, see {@link Likelihood}. A pure function of the runs in their order; immutable.
 */
public final class Belief {
  /** Of a test's environments so many are told apart; in others it is as it is everywhere. */
  private static final int ENVIRONMENTS = 8;

  private static final double SURE = 0.5;

  /** A hair more than that: who is called flaky is hardly looked at any more. */
  private static final double SURELY_FLAKY = 0.505;

  /** Who is believed to be sound has shown more than one that is not known. */
  private static final double STEADY = 0.95;

  private static final Sight PASS = new Sight(null, "", 0, 1, 0);

  /** More passes in a row change nothing that could be seen. */
  private static final int MOST_PASSES = 500;

  /** A commit that more runs had changes no more than one that so many had. */
  private static final int MOST_RUNS = 6;

  private final List<String> environments;
  private final float[] weights;
  private final @Nullable Beside beside;
  private final Branches branches;
  private final @Nullable String commit;
  private final int ofCommit;
  private final int runs;

  /**
   * @param ofCommit how many runs of the main branch the latest commit has had
   */
  Belief(
      List<String> environments,
      float[] weights,
      @Nullable Beside beside,
      Branches branches,
      @Nullable String commit,
      int ofCommit,
      int runs) {
    this.environments = environments;
    this.weights = weights;
    this.beside = beside;
    this.branches = branches;
    this.commit = commit;
    this.ofCommit = ofCommit;
    this.runs = runs;
  }

  /** Of a test that no run has had. */
  public static Belief start() {
    return new Belief(List.of(), Hazards.atFirst(), null, Branches.NONE, null, 0, 0);
  }

  /** Of a test that passed in so many runs, each of a commit of its own, and never failed. */
  public static Belief ofPasses(int runs) {
    Belief belief = Passes.AFTER.get(Math.min(runs, MOST_PASSES));
    return new Belief(belief.environments, belief.weights, null, Branches.NONE, null, 1, runs);
  }

  /** Of so many tests the same is believed that it is worked out once. */
  private static final class Passes {
    static final List<Belief> AFTER = new ArrayList<>(List.of(start()));

    static {
      for (int i = 0; i < MOST_PASSES; i++) {
        AFTER.add(AFTER.get(i).after(PASS));
      }
    }
  }

  /**
   * What {@link #toBytes} made.
   *
   * @throws IllegalArgumentException when it is not that
   */
  public static Belief of(byte[] bytes) {
    return BeliefBytes.read(bytes);
  }

  /** All of it, to be kept; some hundred bytes. What is read again is the same. */
  public byte[] toBytes() {
    return BeliefBytes.write(environments, weights, beside, branches, commit, ofCommit, runs);
  }

  /** With one more run, which began after those before. */
  public Belief after(Sight sight) {
    List<String> known = environments;
    float[] next = weights.clone();
    Beside side = beside;
    Branches left = branches;
    if (side != null && !side.branch().equals(sight.branch())) {
      left = left.and(States.sum(side.broken()));
      side.leave(next);
      side = null;
    }
    if (!known.contains(sight.environment()) && known.size() < ENVIRONMENTS) {
      known = new ArrayList<>(known);
      known.add(sight.environment());
      next = Hazards.withOneMore(next, known.size());
      side = side == null ? null : side.wider(next.length);
    }
    String latest = commit;
    int had = ofCommit;
    if (sight.branch() != null) {
      side = beside(next, left.breaks(), side, sight);
    } else {
      if (commit == null || !commit.equals(sight.commit())) {
        next = runs == 0 ? next : Hazards.afterCommit(next, known.size(), Math.max(1, had));
        had = 0;
      }
      had = Math.min(MOST_RUNS, had + 1);
      latest = sight.commit();
    }
    int tells = sight.tells() ? 1 : 0;
    if (sight.tells()) {
      Likelihood.weigh(next, known.indexOf(sight.environment()), known.size(), sight);
      if (side != null) {
        States.times(side.broken(), Likelihood.ofBroken(sight));
      }
    }
    double sum = States.sum(next) + (side == null ? 0 : States.sum(side.broken()));
    States.times(next, 1 / sum);
    if (side != null) {
      States.times(side.broken(), 1 / sum);
    }
    return new Belief(List.copyOf(known), next, side, left, latest, had, runs + tells);
  }

  private static Beside beside(float[] next, double breaks, @Nullable Beside side, Sight sight) {
    String branch = Objects.requireNonNull(sight.branch());
    if (side == null) {
      return Beside.begun(next, breaks, branch, sight.commit());
    }
    boolean same = side.commit() != null && side.commit().equals(sight.commit());
    return same ? side.copy() : side.moved(next, breaks, sight.commit());
  }

  /** How likely it is each of what it may be, whatever a branch beside the main one does to it. */
  private float[] everywhere() {
    if (beside == null) {
      return weights;
    }
    float[] all = weights.clone();
    beside.leave(all);
    return all;
  }

  /** How many runs told of it. */
  public int runs() {
    return runs;
  }

  /** How likely it is flaky, from 0 to 1. */
  public double flaky() {
    float[] all = everywhere();
    double flaky = States.rates(all, States.FLAKY);
    for (int i = 0; i < environments.size(); i++) {
      flaky += States.rates(all, States.flakyIn(i));
    }
    return flaky;
  }

  /** How likely it is broken now, anywhere, from 0 to 1. */
  public double broken() {
    float[] all = everywhere();
    double broken = all[States.BROKEN];
    for (int i = 0; i < environments.size(); i++) {
      broken += all[States.brokenIn(i)];
    }
    return broken;
  }

  /** What it is taken for. */
  public Verdict verdict() {
    if (flaky() >= SURELY_FLAKY) {
      return Verdict.FLAKY;
    }
    if (broken() >= SURE) {
      return Verdict.BROKEN;
    }
    return sound() >= STEADY ? Verdict.STEADY : Verdict.UNSURE;
  }

  /**
   * How many more runs in which it passes, each of a commit of its own, it takes until another
   * verdict is given.
   *
   * @return 0 when so many that they are not counted
   */
  public int cleanRunsLeft() {
    Verdict now = verdict();
    String where = onlyIn();
    List<String> ran = environments.isEmpty() ? List.of("") : environments;
    Belief next = this;
    for (int runs = 1; runs <= MOST_PASSES; runs++) {
      String environment = where == null ? ran.get(runs % ran.size()) : where;
      next = next.after(new Sight(null, environment, 0, 1, 0));
      if (next.verdict() != now) {
        return runs;
      }
    }
    return 0;
  }

  /** How likely it is neither flaky nor broken, from 0 to 1. */
  public double sound() {
    float[] all = everywhere();
    return all[States.SOUND] + all[States.PRONE];
  }

  /**
   * How often it fails by chance, if it is flaky: the rate below which so much lies of what is
   * believed.
   *
   * @param share from 0 to 1; 0.05 and 0.95 are the ends of an interval that has the true rate in
   *     nine of ten cases
   */
  public double rate(double share) {
    float[] may = everywhere();
    double[] masses = new double[Rates.STEPS];
    double all = 0;
    for (int step = 0; step < Rates.STEPS; step++) {
      masses[step] = may[States.FLAKY + step];
      for (int i = 0; i < environments.size(); i++) {
        masses[step] += may[States.flakyIn(i) + step];
      }
      all += masses[step];
    }
    double until = 0;
    for (int step = 0; step < Rates.STEPS; step++) {
      double begin = until;
      until += masses[step];
      if (until >= share * all) {
        double low = step == 0 ? Rates.at(0) : Rates.end(step - 1);
        double part = masses[step] == 0 ? 0 : (share * all - begin) / masses[step];
        return low * Math.pow(Rates.end(step) / low, part);
      }
    }
    return Rates.end(Rates.STEPS - 1);
  }

  /**
   * The environment in which alone it is flaky or broken, if that is likelier than everywhere.
   *
   * @return null when it is not, or when it is neither
   */
  public @Nullable String onlyIn() {
    if (flaky() + broken() < SURE || environments.size() < 2) {
      return null;
    }
    float[] all = everywhere();
    double most = States.rates(all, States.FLAKY) + all[States.BROKEN];
    String only = null;
    for (int i = 0; i < environments.size(); i++) {
      double there = States.rates(all, States.flakyIn(i)) + all[States.brokenIn(i)];
      if (there > most) {
        most = there;
        only = Objects.requireNonNull(environments.get(i));
      }
    }
    return only;
  }
}
