package org.vinecellar.bench.grouping;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * How well groups and carried decisions agree with the truth, over pairs of results and cause by
 * cause.
 */
final class Scores {
  /** From so many tests in a run on, a cause is a mass cause. */
  private static final int MASS = 20;

  /**
   * One failing result.
   *
   * @param carried the cause whose decision stands; null for none
   */
  record Judged(
      int run, String cause, String kind, long group, boolean first, @Nullable String carried) {}

  /** Precision, recall and their harmonic mean. */
  record Pairs(double precision, double recall) {
    double f1() {
      return precision + recall == 0 ? 0 : 2 * precision * recall / (precision + recall);
    }
  }

  /** All of one stream. */
  record Score(
      Pairs all,
      Pairs tail,
      Pairs mass,
      double exact,
      int causes,
      int groups,
      double carriedPrecision,
      double carriedRecall,
      int firstWrong,
      int hidden) {
    @Override
    public String toString() {
      return String.format(
          "all P %.3f R %.3f F1 %.3f | tail F1 %.3f | mass F1 %.3f | exact %.1f %% of %d causes, %d groups | carried P %.4f R %.3f, first wrong %d of %d, hidden %d",
          all.precision,
          all.recall,
          all.f1(),
          tail.f1(),
          mass.f1(),
          100 * exact,
          causes,
          groups,
          carriedPrecision,
          carriedRecall,
          firstWrong,
          causes,
          hidden);
    }
  }

  private Scores() {}

  static Score of(List<Judged> results) {
    Map<String, Map<Integer, Integer>> perRun = new HashMap<>();
    results.forEach(
        r -> perRun.computeIfAbsent(r.cause, k -> new HashMap<>()).merge(r.run, 1, Integer::sum));
    Set<String> mass = new HashSet<>();
    perRun.forEach(
        (cause, runs) -> {
          if (runs.values().stream().anyMatch(n -> n > MASS)) {
            mass.add(cause);
          }
        });
    Map<String, Set<Long>> groups = new TreeMap<>();
    Map<Long, Set<String>> causes = new HashMap<>();
    int right = 0;
    int wrong = 0;
    int may = 0;
    int firstWrong = 0;
    int hidden = 0;
    Map<String, String> kinds = new HashMap<>();
    results.forEach(r -> kinds.put(r.cause, r.kind));
    for (Judged r : results) {
      groups.computeIfAbsent(r.cause, k -> new HashSet<>()).add(r.group);
      causes.computeIfAbsent(r.group, k -> new HashSet<>()).add(r.cause);
      boolean good = r.cause.equals(r.carried);
      if (!good
          && r.carried != null
          && "environment".equals(kinds.get(r.carried))
          && !"environment".equals(r.kind)) {
        hidden++;
      }
      if (r.first) {
        firstWrong += r.carried == null ? 0 : 1;
        wrong += r.carried == null ? 0 : 1;
      } else {
        may++;
        right += good ? 1 : 0;
        wrong += !good && r.carried != null ? 1 : 0;
      }
    }
    long exact =
        groups.values().stream()
            .filter(
                g ->
                    g.size() == 1 && causes.getOrDefault(g.iterator().next(), Set.of()).size() == 1)
            .count();
    return new Score(
        pairs(results, r -> true),
        pairs(results, r -> !mass.contains(r.cause)),
        pairs(results, r -> mass.contains(r.cause)),
        (double) exact / Math.max(1, groups.size()),
        groups.size(),
        causes.size(),
        right + wrong == 0 ? 1 : (double) right / (right + wrong),
        may == 0 ? 1 : (double) right / may,
        firstWrong,
        hidden);
  }

  private static Pairs pairs(List<Judged> results, Predicate<Judged> which) {
    Map<String, Integer> cause = new HashMap<>();
    Map<Long, Integer> group = new HashMap<>();
    Map<String, Integer> both = new HashMap<>();
    for (Judged r : results) {
      if (which.test(r)) {
        cause.merge(r.cause, 1, Integer::sum);
        group.merge(r.group, 1, Integer::sum);
        both.merge(r.cause + "\t" + r.group, 1, Integer::sum);
      }
    }
    double together = sum(both);
    double said = sum(group);
    double true_ = sum(cause);
    return new Pairs(said == 0 ? 1 : together / said, true_ == 0 ? 1 : together / true_);
  }

  private static double sum(Map<?, Integer> counts) {
    return counts.values().stream().mapToDouble(n -> n * (n - 1.0) / 2).sum();
  }
}
