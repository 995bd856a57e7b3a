package org.vinecellar.core.trust.renames;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;

/**
 * Finds which of the tests that a run has no more go on as which of those that it has for the first
 * time: each at most once, by what they have in common, with the best of all assignments. A pure
 * function of both runs.
 */
public final class Matching {
  /** Words that more names have lead to no pair by themselves. */
  private static final int RARE = 60;

  /** So many pairs of one test are weighed. */
  private static final int PAIRS = 200;

  /** Larger knots of pairs are untied best first. */
  private static final int ASSIGNED = 400;

  /** More cases of one test that come at once are made up anew in each run. */
  private static final int FAMILY = 50;

  private static final double OFFERED = 0.6;

  private final List<Face> gone;
  private final List<Face> came;
  private final Weighing weighing;
  private final SuiteMoves moves;
  private final Names names;

  private Matching(
      List<Face> gone, List<Face> came, Collection<String> others, List<Long> old, List<Long> now) {
    this.gone = gone;
    this.came = came;
    this.moves = new SuiteMoves(gone, came);
    List<Face> all = new ArrayList<>(gone);
    all.addAll(came);
    this.names = new Names(others, all);
    this.weighing = new Weighing(names, moves, new Slots(old, now));
  }

  /**
   * @param gone tests that the run before had
   * @param came tests that no run before had
   * @param others names of the tests that both have
   * @param old all tests of the run before, in the order in which they ran
   * @param now all of this run
   */
  public static List<Succession> of(
      List<Face> gone, List<Face> came, Collection<String> others, List<Long> old, List<Long> now) {
    return gone.isEmpty() || came.isEmpty()
        ? List.of()
        : new Matching(gone, came, others, old, now).all();
  }

  /** A pair by the places of its tests. */
  private record Pair(int gone, int came, Weighing.Weight weight) {}

  private List<Succession> all() {
    List<Pair> pairs = pairs();
    Map<Integer, List<Pair>> byGone = new HashMap<>();
    Map<Integer, List<Pair>> byCame = new HashMap<>();
    for (Pair pair : pairs) {
      byGone.computeIfAbsent(pair.gone, k -> new ArrayList<>()).add(pair);
      byCame.computeIfAbsent(pair.came, k -> new ArrayList<>()).add(pair);
    }
    List<Pair> best = new ArrayList<>();
    Set<Pair> seen = new HashSet<>();
    for (Pair pair : pairs) {
      if (!seen.contains(pair)) {
        best.addAll(untied(knot(pair, byGone, byCame, seen)));
      }
    }
    List<Succession> found = new ArrayList<>();
    for (Pair pair : best) {
      double likely = likely(pair, byGone, byCame);
      if (likely >= OFFERED) {
        found.add(
            new Succession(
                gone.get(pair.gone).id(), came.get(pair.came).id(), likely, pair.weight.reasons()));
      }
    }
    return found;
  }

  /** Less so when either might as well be another. */
  private static double likely(
      Pair pair, Map<Integer, List<Pair>> byGone, Map<Integer, List<Pair>> byCame) {
    double next = Double.NEGATIVE_INFINITY;
    for (Map<Integer, List<Pair>> by : List.of(byGone, byCame)) {
      for (Pair other : Objects.requireNonNull(by.get(by == byGone ? pair.gone : pair.came))) {
        if (!other.equals(pair)) {
          next = Math.max(next, other.weight.sum());
        }
      }
    }
    double margin = pair.weight.sum() - next;
    double sum = pair.weight.sum() - Math.max(0, 2 - margin);
    return 1 / (1 + Math.exp(-sum));
  }

  private List<Pair> pairs() {
    Map<String, List<Integer>> byWord = new HashMap<>();
    Map<List<String>, List<Integer>> bySuite = new HashMap<>();
    Map<Long, Integer> places = new HashMap<>();
    Map<List<Object>, Integer> families = new HashMap<>();
    came.forEach(face -> families.merge(List.of(face.suite(), face.name()), 1, Integer::sum));
    for (int i = 0; i < came.size(); i++) {
      Face face = came.get(i);
      places.put(face.id(), i);
      bySuite.computeIfAbsent(face.suite(), k -> new ArrayList<>()).add(i);
      for (String word : new HashSet<>(names.of(face).content())) {
        if (names.count(word) <= RARE) {
          byWord.computeIfAbsent(word, k -> new ArrayList<>()).add(i);
        }
      }
    }
    Map<List<String>, Set<List<String>>> ways = new HashMap<>();
    List<Pair> pairs = new ArrayList<>();
    for (int i = 0; i < gone.size(); i++) {
      Face face = gone.get(i);
      if (families.getOrDefault(List.of(face.suite(), face.name()), 0) > FAMILY) {
        // Its parameters are others each time.
        continue;
      }
      Set<Integer> with = new LinkedHashSet<>();
      String innermost = face.innermost();
      List<Face> named = new ArrayList<>(moves.withNameOf(face));
      named.sort(Comparator.comparing(other -> !isSimply(other.innermost(), innermost)));
      named.forEach(other -> with.add(Objects.requireNonNull(places.get(other.id()))));
      if (named.size() != 1) {
        with.addAll(bySuite.getOrDefault(face.suite(), List.of()));
        for (List<String> to : ways.computeIfAbsent(face.suite(), moves::from)) {
          with.addAll(bySuite.getOrDefault(to, List.of()));
        }
        for (String word : new HashSet<>(names.of(face).content())) {
          with.addAll(byWord.getOrDefault(word, List.of()));
        }
      }
      int tried = 0;
      for (int other : with) {
        Weighing.Weight weight = weighing.of(face, came.get(other));
        if (weight.sum() > 0) {
          pairs.add(new Pair(i, other, weight));
        }
        if (++tried >= PAIRS) {
          break;
        }
      }
    }
    return pairs;
  }

  /** Whether two suites are called the same but for what is around them. */
  private static boolean isSimply(String one, String other) {
    return one.substring(one.lastIndexOf('.') + 1)
        .equals(other.substring(other.lastIndexOf('.') + 1));
  }

  private static List<Pair> knot(
      Pair first,
      Map<Integer, List<Pair>> byGone,
      Map<Integer, List<Pair>> byCame,
      Set<Pair> seen) {
    List<Pair> knot = new ArrayList<>();
    Deque<Pair> open = new ArrayDeque<>(List.of(first));
    seen.add(first);
    while (!open.isEmpty()) {
      Pair pair = open.pop();
      knot.add(pair);
      List<Pair> next = new ArrayList<>(byGone.getOrDefault(pair.gone, List.of()));
      next.addAll(byCame.getOrDefault(pair.came, List.of()));
      for (Pair other : next) {
        if (seen.add(other)) {
          open.push(other);
        }
      }
    }
    return knot;
  }

  private static List<Pair> untied(List<Pair> knot) {
    Map<Integer, Integer> rows = new TreeMap<>();
    Map<Integer, Integer> columns = new TreeMap<>();
    for (Pair pair : knot) {
      rows.putIfAbsent(pair.gone, rows.size());
      columns.putIfAbsent(pair.came, columns.size());
    }
    if (rows.size() > ASSIGNED || columns.size() > ASSIGNED) {
      return bestFirst(knot);
    }
    double[][] gains = new double[rows.size()][columns.size()];
    Pair[][] there = new Pair[rows.size()][columns.size()];
    for (Pair pair : knot) {
      int row = Objects.requireNonNull(rows.get(pair.gone));
      int column = Objects.requireNonNull(columns.get(pair.came));
      gains[row][column] = pair.weight.sum();
      there[row][column] = pair;
    }
    List<Pair> best = new ArrayList<>();
    int[] assigned = Assignment.best(gains);
    for (int row = 0; row < assigned.length; row++) {
      if (assigned[row] >= 0 && there[row][assigned[row]] != null) {
        best.add(there[row][assigned[row]]);
      }
    }
    return best;
  }

  private static List<Pair> bestFirst(List<Pair> knot) {
    List<Pair> sorted = new ArrayList<>(knot);
    sorted.sort((a, b) -> Double.compare(b.weight.sum(), a.weight.sum()));
    Set<Integer> rows = new HashSet<>();
    Set<Integer> columns = new HashSet<>();
    List<Pair> best = new ArrayList<>();
    for (Pair pair : sorted) {
      if (!rows.contains(pair.gone) && !columns.contains(pair.came)) {
        rows.add(pair.gone);
        columns.add(pair.came);
        best.add(pair);
      }
    }
    return best;
  }
}
