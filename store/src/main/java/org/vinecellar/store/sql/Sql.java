package org.vinecellar.store.sql;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.function.Function;
import java.util.function.Supplier;
import javax.sql.DataSource;
import org.jooq.DSLContext;
import org.jooq.Query;
import org.jooq.SQLDialect;
import org.jooq.conf.RenderQuotedNames;
import org.jooq.conf.Settings;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Runs jOOQ on connections of a pool and turns its failures into ours. Thread-safe. */
public final class Sql {
  private static final Settings SETTINGS =
      new Settings()
          .withRenderSchema(false)
          .withRenderQuotedNames(RenderQuotedNames.EXPLICIT_DEFAULT_UNQUOTED)
          .withExecuteLogging(false);

  private static final int DEADLOCK_TRIES = 6;

  /** SQLSTATE {@code disk_full}. */
  private static final String DISK_FULL = "53100";

  /** SQLSTATE {@code query_canceled}, as by a time limit. */
  private static final String QUERY_CANCELED = "57014";

  private final DataSource dataSource;

  /**
   * @param dataSource a pool of connections to PostgreSQL
   */
  public Sql(DataSource dataSource) {
    this.dataSource = dataSource;
  }

  /** jOOQ on one connection. */
  public static DSLContext on(Connection connection) {
    return DSL.using(connection, SQLDialect.POSTGRES, SETTINGS);
  }

  /** Reads, or does one statement, on a connection of its own. */
  public <T> T with(Function<DSLContext, T> work) {
    try (Connection connection = dataSource.getConnection()) {
      return work.apply(on(connection));
    } catch (SQLException e) {
      throw translated(e);
    } catch (DataAccessException e) {
      throw translated(e);
    }
  }

  /**
   * Reads like {@link #with}, and gives up after a while.
   *
   * @throws CellarException {@code TOO_MUCH_TO_SEARCH}
   */
  public <T> T within(Duration patience, Function<DSLContext, T> work) {
    return with(
        dsl ->
            dsl.transactionResult(
                tx -> {
                  // What is read in several steps is all of one moment.
                  tx.dsl().execute("set transaction isolation level repeatable read, read only");
                  tx.dsl().execute("set local statement_timeout = " + patience.toMillis());
                  return work.apply(tx.dsl());
                }));
  }

  /** Does a short transaction; again from the start when PostgreSQL broke a deadlock with it. */
  public <T> T transaction(Function<DSLContext, T> work) {
    for (int attempt = 1; ; attempt++) {
      try {
        return with(dsl -> dsl.transactionResult(tx -> work.apply(tx.dsl())));
      } catch (DeadlockException e) {
        if (attempt == DEADLOCK_TRIES) {
          throw e;
        }
      }
    }
  }

  /**
   * Does something in a transaction with tables of keys for joins. Right after a large upload
   * PostgreSQL knows nothing of its rows, takes them for one, and would go through all of them for
   * each of them.
   */
  public static <T> T withoutLoops(DSLContext dsl, Supplier<T> work) {
    dsl.execute("set local enable_nestloop = off");
    T done = work.get();
    dsl.execute("set local enable_nestloop = on");
    return done;
  }

  /**
   * Notes what nobody waits for, such as when somebody was last seen. On a full disk it is not
   * noted: who only reads is served all the same. Not for use inside a transaction.
   */
  public static void note(Query query) {
    try {
      query.execute();
    } catch (DataAccessException e) {
      if (!DISK_FULL.equals(state(e))) {
        throw e;
      }
    }
  }

  /** A connection that the caller closes. */
  public Connection connection() {
    try {
      return dataSource.getConnection();
    } catch (SQLException e) {
      throw translated(e);
    }
  }

  /**
   * Commits of this connection do not wait for the disk from now on. For what counts only once a
   * later commit names it, which does wait and makes all before it durable.
   */
  public static void commitLazily(Connection connection) {
    on(connection).execute("set synchronous_commit = off");
  }

  /** Commits of this connection wait for the disk again. */
  public static void commitAtOnce(Connection connection) {
    on(connection).execute("reset synchronous_commit");
  }

  /** PostgreSQL chose this transaction to break a deadlock; doing it again helps. */
  private static final class DeadlockException extends CellarException {
    private static final long serialVersionUID = 1L;

    DeadlockException(Throwable cause) {
      super(ProblemCode.UNAVAILABLE, "the database was busy with the same rows; try again", cause);
    }
  }

  /** Our own failure for one of the database's. */
  public static CellarException translated(Exception e) {
    String state = state(e);
    if ("40P01".equals(state) || "40001".equals(state)) {
      return new DeadlockException(e);
    }
    if (DISK_FULL.equals(state)) {
      return new CellarException(
          ProblemCode.DISK_FULL,
          "the disk of the database is full: nothing can be kept until there is room again",
          e);
    }
    if (QUERY_CANCELED.equals(state)) {
      return new CellarException(
          ProblemCode.TOO_MUCH_TO_SEARCH,
          "there is too much to look through for this filter; ask for less, such as one stream or"
              + " a time: started gt \"-P7D\"",
          e);
    }
    // What PostgreSQL's text cannot hold.
    if ("22021".equals(state) || "22P05".equals(state)) {
      return new CellarException(
          ProblemCode.INVALID_VALUE, "a text holds a NUL character; leave it out", e);
    }
    // 08: connection; 53: no resources; 57P: shutting down. No state at all: the pool's own word.
    boolean unavailable =
        state == null
            ? isOfDatabase(e)
            : state.startsWith("08") || state.startsWith("53") || state.startsWith("57P");
    return unavailable
        ? new CellarException(
            ProblemCode.UNAVAILABLE, "the database does not answer; try again in a moment", e)
        : new CellarException(ProblemCode.INTERNAL, "the database refused a statement", e);
  }

  /** Whether a unique constraint was violated. */
  public static boolean isDuplicate(Throwable e) {
    return "23505".equals(state(e));
  }

  /** Whether a statement took longer than it may. */
  public static boolean isTimeLimit(Throwable e) {
    return QUERY_CANCELED.equals(state(e));
  }

  /** Whether PostgreSQL chose this statement to break a deadlock. */
  public static boolean isDeadlock(Throwable e) {
    return "40P01".equals(state(e));
  }

  /** Whether it comes from a driver or a pool, and not from what we made of an answer. */
  private static boolean isOfDatabase(Throwable e) {
    for (Throwable at = e; at != null; at = at.getCause()) {
      if (at instanceof SQLException) {
        return true;
      }
    }
    return false;
  }

  private static @Nullable String state(Throwable e) {
    for (Throwable at = e; at != null; at = at.getCause()) {
      if (at instanceof SQLException sql && sql.getSQLState() != null) {
        return sql.getSQLState();
      }
    }
    return null;
  }

  /** As the columns hold time. */
  public static OffsetDateTime utc(Instant instant) {
    return instant.atOffset(ZoneOffset.UTC);
  }

  /** As the columns hold time; null stays null. */
  public static @Nullable OffsetDateTime utcOrNull(@Nullable Instant instant) {
    return instant == null ? null : utc(instant);
  }

  /** From a column; null stays null. */
  public static @Nullable Instant instantOrNull(@Nullable OffsetDateTime time) {
    return time == null ? null : time.toInstant();
  }
}
