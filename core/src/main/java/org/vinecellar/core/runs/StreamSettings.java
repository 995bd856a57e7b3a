package org.vinecellar.core.runs;

import java.time.Duration;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * What can be set of a stream; null stands for what the service is set to.
 *
 * @param silence after so long without news its open runs are closed; a minute to a week
 * @param bundleDays how long its bundles are kept; 1 to 3650 days
 * @param bundleMegabytes of one bundle, unpacked; 1 to 10240 mebibytes
 * @param mainBranch with whose runs those of branches without a run before are compared
 */
public record StreamSettings(
    @Nullable Duration silence,
    @Nullable Integer bundleDays,
    @Nullable Integer bundleMegabytes,
    @Nullable String mainBranch) {
  /** Nothing set. */
  public static final StreamSettings NONE = new StreamSettings(null, null, null, null);

  private static final int MOST_MINUTES = 7 * 24 * 60;
  private static final int MOST_CHARS = 300;
  private static final int MOST_DAYS = 3650;
  private static final int MOST_MEGABYTES = 10 * 1024;

  /**
   * Checks every value.
   *
   * @throws CellarException {@code INVALID_VALUE} that names the value and the bounds
   */
  public StreamSettings {
    if (silence != null) {
      check("a silence of %d minutes", Math.toIntExact(silence.toMinutes()), MOST_MINUTES);
    }
    if (bundleDays != null) {
      check("keeping bundles for %d days", bundleDays, MOST_DAYS);
    }
    if (bundleMegabytes != null) {
      check("a bundle of %d megabytes", bundleMegabytes, MOST_MEGABYTES);
    }
    if (mainBranch != null
        && (mainBranch.isBlank()
            || mainBranch.length() > MOST_CHARS
            || mainBranch.chars().anyMatch(c -> c < 0x20))) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the main branch is a name of 1 to " + MOST_CHARS + " characters, as in main");
    }
  }

  private static void check(String what, int value, int most) {
    if (value < 1 || value > most) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          String.format(what, value) + " is not possible; it goes from 1 to " + most);
    }
  }
}
