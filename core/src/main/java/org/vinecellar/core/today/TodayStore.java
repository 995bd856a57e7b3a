package org.vinecellar.core.today;

import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Tells what needs somebody. */
public interface TodayStore {
  /** Who never looked sees this much. */
  Duration FIRST_LOOK = Duration.ofDays(1);

  /** Looks that follow each other so soon are one: a page that is opened again tells the same. */
  Duration ONE_LOOK = Duration.ofHours(3);

  /**
   * Somebody looks now.
   *
   * @return when they last looked before that; null for who never did
   */
  @Nullable Instant look(int projectId, String who, Instant now);

  /**
   * What needs somebody.
   *
   * @param since what is new since then
   */
  Today today(int projectId, String who, Instant since, Instant now);
}
