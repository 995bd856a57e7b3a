package org.vinecellar.core.trust.ranks;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** By what tests are ranked. */
public enum Rank {
  /** Those that failed in most of the latest runs. */
  FAILING,
  /**
   * Those that are flaky, by the runs in which nothing else failed, and by the time that their
   * tries took.
   */
  COSTLY,
  /** Those that became slower, by what that costs a week. */
  SLOWING,
  /** Those that take longest. */
  SLOWEST,
  /** Those that never failed in the latest runs, by the time that they take a week. */
  STEADY,
  /** Those that the latest runs have not had, the ones that went last first. */
  MISSING,
  /** Those that came last. */
  NEWEST;

  /** The name in the API, e.g. {@code slowing}. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** Empty when there is no such rank. */
  public static Optional<Rank> of(String word) {
    return Arrays.stream(values()).filter(one -> one.word().equals(word)).findFirst();
  }
}
