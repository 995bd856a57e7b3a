package org.vinecellar.bench.trust;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.jspecify.annotations.Nullable;

/** A test that does what is known of it beforehand. */
final class SimulatedTest {
  /** What it is, and how many of a thousand tests are that. */
  enum Kind {
    SOUND(600),
    FLAKY(110),
    FLAKY_MENDED(40),
    TURNED_FLAKY(40),
    FLAKY_SOMEWHERE(25),
    BY_ORDER(20),
    BROKEN(60),
    BROKEN_SHORTLY(30),
    BROKEN_FOR_A_COMMIT(20),
    BROKEN_SOMEWHERE(30),
    RUN_OUT(10),
    BEING_WRITTEN(15);

    private final int share;

    Kind(int share) {
      this.share = share;
    }
  }

  private static final int NEVER = Integer.MAX_VALUE;

  final Kind kind;

  /** At which it fails by chance; 0 for what does not. */
  final double rate;

  /** Numbers of the first run of a state and of the one after its last. */
  final int begins;

  final int ends;

  /** Null for all. */
  private final @Nullable String environment;

  /** Numbers of the runs in which it failed by chance. */
  final List<Integer> chances = new ArrayList<>();

  private SimulatedTest(
      Kind kind, double rate, int begins, int ends, @Nullable String environment) {
    this.kind = kind;
    this.rate = rate;
    this.begins = begins;
    this.ends = ends;
    this.environment = environment;
  }

  static SimulatedTest any(Random random, SimulatedStream stream) {
    Kind kind = kind(random);
    double rate = 0.005 * Math.pow(100, random.nextDouble());
    String somewhere = stream.environment(random);
    int begins = stream.firstOfCommit(5 + random.nextInt(100));
    return switch (kind) {
      case SOUND -> new SimulatedTest(kind, 0, NEVER, NEVER, null);
      case FLAKY -> new SimulatedTest(kind, rate, 1, NEVER, null);
      case BY_ORDER -> new SimulatedTest(kind, 0.5, 1, NEVER, null);
      case FLAKY_SOMEWHERE -> new SimulatedTest(kind, rate, 1, NEVER, somewhere);
      case FLAKY_MENDED ->
          new SimulatedTest(kind, rate, 1, stream.firstOfCommit(20 + random.nextInt(60)), null);
      case TURNED_FLAKY ->
          new SimulatedTest(kind, rate, stream.firstOfCommit(20 + random.nextInt(70)), NEVER, null);
      case BROKEN -> broken(kind, stream, begins, 5 + random.nextInt(60), null);
      case BROKEN_SHORTLY -> broken(kind, stream, begins, 1 + random.nextInt(5), null);
      case BROKEN_FOR_A_COMMIT -> broken(kind, stream, begins, 1, null);
      case BROKEN_SOMEWHERE -> broken(kind, stream, begins, 10 + random.nextInt(80), somewhere);
      case RUN_OUT -> new SimulatedTest(kind, 0, 5 + random.nextInt(100), NEVER, null);
      case BEING_WRITTEN -> broken(kind, stream, 1, 1 + random.nextInt(4), null);
    };
  }

  private static SimulatedTest broken(
      Kind kind, SimulatedStream stream, int begins, int runs, @Nullable String environment) {
    return new SimulatedTest(kind, 0, begins, stream.firstOfCommit(begins + runs), environment);
  }

  private static Kind kind(Random random) {
    int drawn = random.nextInt(1_000);
    for (Kind kind : Kind.values()) {
      drawn -= kind.share;
      if (drawn < 0) {
        return kind;
      }
    }
    return Kind.SOUND;
  }

  /** Whether it fails when it is tried once. */
  boolean fails(SimulatedStream.Run run, Random random) {
    boolean on =
        run.number() >= begins
            && run.number() < ends
            && (environment == null || environment.equals(run.environment()));
    if (!on) {
      return false;
    }
    if (kind == Kind.BY_ORDER) {
      return chance(run, run.shuffled() && random.nextDouble() < rate);
    }
    return rate == 0 || chance(run, random.nextDouble() < rate);
  }

  private boolean chance(SimulatedStream.Run run, boolean fails) {
    if (fails && (chances.isEmpty() || chances.get(chances.size() - 1) != run.number())) {
      chances.add(run.number());
    }
    return fails;
  }

  /** What it is after so many runs: flaky, not flaky, or not to be scored, since just mended. */
  Truth truth(int runs) {
    if (rate == 0 || begins > runs) {
      return Truth.NOT_FLAKY;
    }
    if (runs < ends) {
      return Truth.FLAKY;
    }
    return runs - ends < 29 ? Truth.OPEN : Truth.NOT_FLAKY;
  }

  enum Truth {
    FLAKY,
    NOT_FLAKY,
    OPEN
  }
}
