package org.vinecellar.core.boards;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.statistics.Share;

/**
 * What runs came to by what they are told apart by, the worst first, against the same before.
 *
 * @param parts those of which the period has a run, or the one before it had
 */
public record Breakdown(List<Part> parts) {
  /** Copies the parts. */
  public Breakdown {
    parts = List.copyOf(parts);
  }

  /** More parts than these nobody reads. */
  private static final int MOST = 500;

  /** The first of them, so many as somebody reads; who shows them says how many there are. */
  public List<Part> worst() {
    return parts.subList(0, Math.min(MOST, parts.size()));
  }

  /** How a part stands against the rate that it must hold. */
  public enum Standing {
    HOLDS,
    MISSES,
    /** Nothing of it came to an end: nobody can tell. */
    UNKNOWN,
    /** No rate is asked for. */
    FREE;

    /** As it is told to others. */
    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  /**
   * The runs with the same values.
   *
   * @param now in the period; null when it had no run there
   * @param before in the period before; null when it had none there
   */
  public record Part(
      List<@Nullable String> by, @Nullable RunSum now, @Nullable RunSum before, Standing standing) {
    /**
     * How much the pass rate went up or, negative, down, from 0 to 1.
     *
     * @return null when it is not known of both periods
     */
    public @Nullable Double change() {
      Double was = rate(before);
      Double is = rate(now);
      return was == null || is == null ? null : (Double) (is - was);
    }
  }

  /**
   * Sets two periods side by side.
   *
   * @param minimum the rate that each part must hold, from 0 to 1; null for none
   */
  public static Breakdown of(List<RunCell> now, List<RunCell> before, @Nullable Double minimum) {
    Map<List<@Nullable String>, RunSum> is = sums(now);
    Map<List<@Nullable String>, RunSum> was = sums(before);
    Set<List<@Nullable String>> all = new HashSet<>(is.keySet());
    all.addAll(was.keySet());
    List<Part> parts = new ArrayList<>();
    for (List<@Nullable String> by : all) {
      parts.add(new Part(by, is.get(by), was.get(by), standing(is.get(by), minimum)));
    }
    parts.sort(Breakdown::worstFirst);
    return new Breakdown(parts);
  }

  private static Map<List<@Nullable String>, RunSum> sums(List<RunCell> cells) {
    Map<List<@Nullable String>, RunSum> sums = new HashMap<>();
    cells.forEach(cell -> sums.merge(cell.by(), cell.sum(), RunSum::plus));
    return sums;
  }

  /** What is not known is never told to be fine. */
  private static Standing standing(@Nullable RunSum sum, @Nullable Double minimum) {
    if (minimum == null) {
      return Standing.FREE;
    }
    Double rate = rate(sum);
    if (rate == null) {
      return Standing.UNKNOWN;
    }
    return rate >= minimum ? Standing.HOLDS : Standing.MISSES;
  }

  private static @Nullable Double rate(@Nullable RunSum sum) {
    if (sum == null) {
      return null;
    }
    Share share = sum.passRate();
    return share.all() == 0 ? null : (Double) ((double) share.some() / share.all());
  }

  /** The lowest rate first, behind those of which nothing is known. */
  private static int worstFirst(Part one, Part other) {
    Double a = rate(one.now());
    Double b = rate(other.now());
    int first = Double.compare(a == null ? -1 : a, b == null ? -1 : b);
    return first != 0 ? first : Trend.compare(one.by(), other.by());
  }
}
