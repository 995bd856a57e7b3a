package org.vinecellar.core.trust.ranks;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;

/**
 * Work split over parts so that the longest part is short: the largest piece first, each to whoever
 * has least; at most a third longer than the best there is (R. L. Graham, "Bounds on
 * multiprocessing timing anomalies", 1969).
 *
 * @param parts in the order of their numbers
 */
public record Split(List<Part> parts) {
  /** Copies the list. */
  public Split {
    parts = List.copyOf(parts);
  }

  /** What one part does. */
  public record Part(List<RankStore.Load> loads) {
    /** Copies the list. */
    public Part {
      loads = List.copyOf(loads);
    }

    /** How long it takes. */
    public double millis() {
      return loads.stream().mapToDouble(RankStore.Load::millis).sum();
    }
  }

  /** Always the same for the same loads, in whatever order. */
  public static Split of(List<RankStore.Load> loads, int parts) {
    List<List<RankStore.Load>> all = new ArrayList<>();
    double[] millis = new double[parts];
    PriorityQueue<Integer> least =
        new PriorityQueue<>(
            Comparator.<Integer>comparingDouble(part -> millis[part])
                .thenComparing(part -> all.get(part).size())
                .thenComparing(part -> part));
    for (int part = 0; part < parts; part++) {
      all.add(new ArrayList<>());
      least.add(part);
    }
    for (RankStore.Load load :
        loads.stream()
            .sorted(
                Comparator.comparingDouble(RankStore.Load::millis)
                    .reversed()
                    .thenComparing(RankStore.Load::suite))
            .toList()) {
      int part = least.remove();
      all.get(part).add(load);
      millis[part] += load.millis();
      least.add(part);
    }
    return new Split(all.stream().map(Part::new).toList());
  }

  /** How long it takes as a whole. */
  public double millis() {
    return parts.stream().mapToDouble(Part::millis).max().orElse(0);
  }
}
