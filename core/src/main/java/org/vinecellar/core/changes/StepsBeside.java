package org.vinecellar.core.changes;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Step;

/**
 * The steps of one try of a test beside those of another, level by level, each in its order. A step
 * is the same one when it says the same; where the number in it, or what stands in quotes, is all
 * that differs, it is still taken for the same. Of all such pairings the one with most in common is
 * told. Both lists whole make up the rows: none is left out, none twice.
 */
public final class StepsBeside {
  /** Of a pairing of two lists: more take too much memory, and are cut where they surely agree. */
  private static final int MOST_PAIRS = 1_000_000;

  private static final int SAME = 3;
  private static final int ALIKE = 2;

  /** Possessive, so that no text makes it try again. */
  private static final Pattern VALUES =
      Pattern.compile("\"[^\"]*+\"|'[^']*+'|[0-9]++(?:[.,:][0-9]++)*+");

  private final List<Row> rows = new ArrayList<>();

  private StepsBeside() {}

  /**
   * A step as it went in either.
   *
   * @param depth 0 for the outermost
   * @param before null when the other has it not
   * @param now null when this one has it not; one of the two is there
   */
  public record Row(int depth, @Nullable Step before, @Nullable Step now) {
    /** Whether one is missing, or they ended otherwise; how long they took is no difference. */
    public boolean differs() {
      return before == null
          || now == null
          || before.outcome() != now.outcome()
          || !Objects.equals(before.status(), now.status());
    }
  }

  /** Each step with those inside it, as it is read. */
  public static List<Row> of(List<Step> before, List<Step> now) {
    StepsBeside beside = new StepsBeside();
    beside.level(0, before, now);
    return List.copyOf(beside.rows);
  }

  private void level(int depth, List<Step> before, List<Step> now) {
    int low = 0;
    int most = Math.min(before.size(), now.size());
    while (low < most && isSame(before.get(low), now.get(low))) {
      low++;
    }
    int tail = 0;
    while (tail < most - low
        && isSame(before.get(before.size() - 1 - tail), now.get(now.size() - 1 - tail))) {
      tail++;
    }
    pairs(depth, before.subList(0, low), now.subList(0, low));
    between(depth, before.subList(low, before.size() - tail), now.subList(low, now.size() - tail));
    pairs(
        depth,
        before.subList(before.size() - tail, before.size()),
        now.subList(now.size() - tail, now.size()));
  }

  private void pairs(int depth, List<Step> before, List<Step> now) {
    for (int i = 0; i < before.size(); i++) {
      pair(depth, before.get(i), now.get(i));
    }
  }

  private void pair(int depth, Step before, Step now) {
    rows.add(new Row(depth, before, now));
    level(depth + 1, before.steps(), now.steps());
  }

  private void gone(int depth, Step step) {
    rows.add(new Row(depth, step, null));
    step.steps().forEach(inside -> gone(depth + 1, inside));
  }

  private void added(int depth, Step step) {
    rows.add(new Row(depth, null, step));
    step.steps().forEach(inside -> added(depth + 1, inside));
  }

  private void between(int depth, List<Step> before, List<Step> now) {
    if ((long) before.size() * now.size() <= MOST_PAIRS) {
      paired(depth, before, now);
      return;
    }
    int[] cut = cut(before, now);
    if (cut == null) {
      before.forEach(step -> gone(depth, step));
      now.forEach(step -> added(depth, step));
      return;
    }
    between(depth, before.subList(0, cut[0]), now.subList(0, cut[1]));
    pair(depth, before.get(cut[0]), now.get(cut[1]));
    between(depth, before.subList(cut[0] + 1, before.size()), now.subList(cut[1] + 1, now.size()));
  }

  /** The step nearest to the middle that either list has just once; null when there is none. */
  private static int @Nullable [] cut(List<Step> before, List<Step> now) {
    Map<String, Integer> once = places(before);
    Map<String, Integer> here = places(now);
    int[] nearest = null;
    for (Map.Entry<String, Integer> one : once.entrySet()) {
      int there = here.getOrDefault(one.getKey(), -1);
      if (one.getValue() >= 0
          && there >= 0
          && (nearest == null
              || Math.abs(one.getValue() - before.size() / 2)
                  < Math.abs(nearest[0] - before.size() / 2))) {
        nearest = new int[] {one.getValue(), there};
      }
    }
    return nearest;
  }

  /** Where a text stands; -1 when it does more than once. */
  private static Map<String, Integer> places(List<Step> steps) {
    Map<String, Integer> places = new HashMap<>();
    for (int i = 0; i < steps.size(); i++) {
      places.merge(steps.get(i).displayText(), i, (a, b) -> -1);
    }
    return places;
  }

  /** The longest common subsequence, by weight. */
  private void paired(int depth, List<Step> before, List<Step> now) {
    String[] masked = now.stream().map(StepsBeside::masked).toArray(String[]::new);
    short[][] best = new short[before.size() + 1][now.size() + 1];
    int[][] weights = new int[before.size()][];
    for (int i = before.size() - 1; i >= 0; i--) {
      weights[i] = weights(before.get(i), now, masked);
      for (int j = now.size() - 1; j >= 0; j--) {
        int alone = Math.max(best[i + 1][j], best[i][j + 1]);
        int both = weights[i][j] == 0 ? 0 : best[i + 1][j + 1] + weights[i][j];
        best[i][j] = (short) Math.max(alone, both);
      }
    }
    int i = 0;
    int j = 0;
    while (i < before.size() && j < now.size()) {
      if (weights[i][j] > 0 && best[i][j] == best[i + 1][j + 1] + weights[i][j]) {
        pair(depth, before.get(i++), now.get(j++));
      } else if (best[i + 1][j] >= best[i][j + 1]) {
        gone(depth, before.get(i++));
      } else {
        added(depth, now.get(j++));
      }
    }
    while (i < before.size()) {
      gone(depth, before.get(i++));
    }
    while (j < now.size()) {
      added(depth, now.get(j++));
    }
  }

  private static int[] weights(Step before, List<Step> now, String[] masked) {
    String text = before.displayText();
    String mask = masked(before);
    int[] weights = new int[now.size()];
    for (int j = 0; j < weights.length; j++) {
      weights[j] =
          text.equals(now.get(j).displayText()) ? SAME : mask.equals(masked[j]) ? ALIKE : 0;
    }
    return weights;
  }

  private static boolean isSame(Step before, Step now) {
    return before.displayText().equals(now.displayText());
  }

  private static String masked(Step step) {
    return VALUES.matcher(step.displayText()).replaceAll("#");
  }
}
