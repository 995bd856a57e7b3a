package org.vinecellar.core.triage.desk;

import java.util.Collection;
import java.util.Comparator;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import org.vinecellar.core.triage.desk.GroupDetail.Similar;

/**
 * An explanation of another group that may explain this one, too. It waits for a yes: it never
 * explains anything by itself.
 *
 * @param like the other group; what explains it is there
 * @param right how often, of such strength, people then said the same of the group
 * @param of how often they said something while there was such a suggestion
 */
public record Suggestion(Similar like, Strength strength, int right, int of) {
  private static final double LIKE_ENOUGH = 0.5;

  /** Checks nulls. */
  public Suggestion {
    Objects.requireNonNull(like);
    Objects.requireNonNull(strength);
  }

  /** How much speaks for it; the codes are stored and never change. */
  public enum Strength {
    /** Some words are the same, or a test. */
    SLIGHT(1),
    /** Most words are the same, or half of them and a test. */
    FAIR(2),
    /** Nearly all words are the same, or most of them and a test. */
    STRONG(3);

    private static final double MOST = 0.65;
    private static final double NEARLY_ALL = 0.8;

    private final int code;

    Strength(int code) {
      this.code = code;
    }

    /** The stored number. */
    public int code() {
      return code;
    }

    /** The word in the API. */
    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }

    /** Of a group that is so alike. */
    public static Strength of(Similar like) {
      boolean sameTest = like.sameTests() > 0;
      if (like.likeness() >= (sameTest ? MOST : NEARLY_ALL)) {
        return STRONG;
      }
      return like.likeness() >= (sameTest ? LIKE_ENOUGH : MOST) ? FAIR : SLIGHT;
    }
  }

  /**
   * The other group for which most speaks, of those that something explains; empty when nothing
   * speaks for any.
   */
  public static Optional<Similar> best(Collection<Similar> similar) {
    return similar.stream()
        .filter(one -> one.said() != null)
        .filter(one -> one.likeness() >= LIKE_ENOUGH || one.sameTests() > 0)
        .max(
            Comparator.<Similar>comparingInt(one -> Strength.of(one).code())
                .thenComparingDouble(Similar::likeness)
                .thenComparingInt(Similar::sameTests)
                .thenComparingInt(Similar::sameRuns)
                .thenComparing(Comparator.comparingLong(Similar::id).reversed()));
  }
}
