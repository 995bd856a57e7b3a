package org.vinecellar.core.statistics;

/**
 * How many of several did something, and between which bounds the true share lies in 19 of 20 cases
 * (E. B. Wilson, "Probable inference, the law of succession, and statistical inference", 1927).
 *
 * @param low from 0 to 1
 * @param high from 0 to 1
 */
public record Share(long some, long all, double low, double high) {
  private static final double Z = 1.96;

  /** Of so many. */
  public static Share of(long some, long all) {
    if (all == 0) {
      return new Share(0, 0, 0, 1);
    }
    double share = (double) some / all;
    double z2 = Z * Z / all;
    double middle = share + z2 / 2;
    double half = Z * Math.sqrt(share * (1 - share) / all + z2 / (4 * all));
    return new Share(
        some,
        all,
        some == 0 ? 0 : Math.max(0, (middle - half) / (1 + z2)),
        some == all ? 1 : Math.min(1, (middle + half) / (1 + z2)));
  }

  /** Whether chance alone hardly makes such a difference. */
  public boolean isApart(Share other) {
    return all > 0 && other.all > 0 && (low > other.high || other.low > high);
  }
}
