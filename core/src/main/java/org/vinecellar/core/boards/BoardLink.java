package org.vinecellar.core.boards;

import java.time.Duration;
import java.time.Instant;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * A link by which somebody without an account sees a board, and nothing else, until it ends.
 *
 * @param madeBy whoever made it
 */
public record BoardLink(long id, String madeBy, Instant madeAt, Instant endsAt) {
  private static final int MOST_DAYS = 366;

  /**
   * A board that somebody sees by a link.
   *
   * @param project of which it is
   * @param version of the board: its panels are known by their places in it
   */
  public record Opened(int project, int version, Board board, Instant endsAt) {}

  /**
   * When a link ends that is good for so many days.
   *
   * @throws CellarException {@code INVALID_VALUE}
   */
  public static Instant end(int days, Instant now) {
    if (days < 1 || days > MOST_DAYS) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "a link is good for 1 to " + MOST_DAYS + " days, not for " + days);
    }
    return now.plus(Duration.ofDays(days));
  }
}
