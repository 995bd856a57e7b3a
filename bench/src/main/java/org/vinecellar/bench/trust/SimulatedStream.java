package org.vinecellar.bench.trust;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * Runs of made-up tests: several a commit, in some environments, some with retries, with outages.
 */
final class SimulatedStream {
  static final int RUNS = 120;
  private static final double OUTAGES = 0.03;

  private final List<Run> runs = new ArrayList<>();
  private final int environments;

  /**
   * A run.
   *
   * @param number from 1
   * @param retries whether what fails is tried once more
   * @param shuffled whether its order is another one than usual
   * @param outage whether half of its tests fail for one reason
   */
  record Run(
      int number,
      String commit,
      String environment,
      boolean retries,
      boolean shuffled,
      boolean outage) {}

  SimulatedStream(Random random) {
    environments = 1 + random.nextInt(3);
    double commits = 0.4 + 0.6 * random.nextDouble();
    double retried = random.nextBoolean() ? 0.7 : 0;
    double shuffled = random.nextBoolean() ? 1 : 0.3;
    int commit = 1;
    for (int number = 1; number <= RUNS; number++) {
      commit += random.nextDouble() < commits ? 1 : 0;
      runs.add(
          new Run(
              number,
              "c" + commit,
              environment(random),
              random.nextDouble() < retried,
              random.nextDouble() < shuffled,
              random.nextDouble() < OUTAGES));
    }
  }

  List<Run> runs() {
    return runs;
  }

  String environment(Random random) {
    return "e" + random.nextInt(environments);
  }

  /** The number of the first run of a commit, from that one on; one past the last for none. */
  int firstOfCommit(int number) {
    for (int i = Math.max(2, number); i <= RUNS; i++) {
      if (!runs.get(i - 1).commit().equals(runs.get(i - 2).commit())) {
        return i;
      }
    }
    return RUNS + 1;
  }
}
