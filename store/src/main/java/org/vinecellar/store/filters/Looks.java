package org.vinecellar.store.filters;

import java.time.Duration;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.Function;
import java.util.function.Supplier;
import org.jooq.DSLContext;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.problem.TryLaterException;
import org.vinecellar.store.sql.Sql;

/**
 * Looks through what filters ask: each for so long at most, and so many at a time, so that slow
 * ones never take all connections from those who ask for nothing special. Those into one run have
 * places of their own, since their work has an end. Thread-safe.
 */
public final class Looks {
  private static final int INTO_RUNS = 8;
  private static final int WIDE = 4;
  private static final int VALUES = 4;
  private static final int SUMS = 4;
  private static final int THOROUGH = 2;

  /** Whoever asks for a report waits for so much longer. */
  private static final int LONGER = 6;

  private static final Duration WAIT = Duration.ofSeconds(2);

  /** Who is writing has typed on by then. */
  private static final Duration GLANCE = Duration.ofSeconds(1);

  private final Sql sql;
  private final Duration patience;
  private final Semaphore intoRuns = new Semaphore(INTO_RUNS, true);
  private final Semaphore wide = new Semaphore(WIDE, true);
  private final Semaphore sums = new Semaphore(SUMS, true);
  private final Semaphore thorough = new Semaphore(THOROUGH, true);
  private final Semaphore glances = new Semaphore(VALUES);

  /**
   * @param patience how long one look may take
   */
  public Looks(Sql sql, Duration patience) {
    this.sql = sql;
    this.patience = patience;
  }

  /** Through one run. */
  public <T> T intoRun(Criterion filter, Function<DSLContext, T> query) {
    return look(intoRuns, filter, query);
  }

  /** Through all runs, or all tests. */
  public <T> T wide(Criterion filter, Function<DSLContext, T> query) {
    return look(wide, filter, query);
  }

  /** For boards, which many people leave open: also what asks for everything has an end. */
  public <T> T sums(Function<DSLContext, T> query) {
    return in(sums, WAIT, () -> sql.within(patience, query));
  }

  /** For reports, which few people ask for and which may look at every result. */
  public <T> T thorough(Function<DSLContext, T> query) {
    return in(thorough, WAIT, () -> sql.within(patience.multipliedBy(LONGER), query));
  }

  /** Through two runs, whole. */
  public <T> T heavy(Function<DSLContext, T> query) {
    return in(intoRuns, WAIT, () -> sql.within(patience, query));
  }

  /** For values that there are: at once and not for long, or not at all. */
  public <T> T values(Function<DSLContext, T> query) {
    return in(glances, Duration.ZERO, () -> sql.within(GLANCE, query));
  }

  /** What asks for everything is quick. */
  private <T> T look(Semaphore places, Criterion filter, Function<DSLContext, T> query) {
    return filter.equals(Criterion.EVERYTHING)
        ? sql.with(query)
        : in(places, WAIT, () -> sql.within(patience, query));
  }

  private static <T> T in(Semaphore places, Duration wait, Supplier<T> look) {
    try {
      if (!places.tryAcquire(wait.toMillis(), TimeUnit.MILLISECONDS)) {
        throw new TryLaterException(
            ProblemCode.TOO_MANY_AT_ONCE,
            "too many look through much at once with filters; try again in a moment, or ask for less",
            WAIT);
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new TryLaterException(
          ProblemCode.TOO_MANY_AT_ONCE, "interrupted; try again in a moment", WAIT, e);
    }
    try {
      return look.get();
    } finally {
      places.release();
    }
  }
}
