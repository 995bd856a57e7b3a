package org.vinecellar.store.work;

import static org.vinecellar.store.generated.Tables.WORK;

import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.vinecellar.core.work.Waiting;
import org.vinecellar.core.work.WorkStore;
import org.vinecellar.store.sql.Sql;

/**
 * Work in PostgreSQL. Taking a piece off the list and its effect are one transaction, so that its
 * effect is there once, whenever a process dies; one over which several died waits. Of one subject,
 * only the oldest piece is taken; whoever has it locked has them all. Thread-safe; any number of
 * instances may work.
 */
public final class PgWorkStore implements WorkStore {
  private static final Logger LOG = LoggerFactory.getLogger(PgWorkStore.class);
  private static final Duration FIRST_WAIT = Duration.ofSeconds(2);
  private static final Duration LONGEST_WAIT = Duration.ofHours(1);
  private static final int MAX_ERROR = 1000;

  /** A piece over which so many processes came to their end is put off. */
  private static final int ENDED_BY = 3;

  /** This process. */
  private final String process = UUID.randomUUID().toString();

  private final Sql sql;
  private final Map<WorkKind, WorkTask> tasks;

  /**
   * On that database.
   *
   * @param tasks one for each kind
   */
  public PgWorkStore(Sql sql, Map<WorkKind, WorkTask> tasks) {
    this.sql = sql;
    this.tasks = new EnumMap<>(tasks);
  }

  /**
   * A piece that is being done.
   *
   * @param begun by how many processes
   */
  private record Piece(long id, WorkKind kind, int projectId, long subject, int tries, int begun) {}

  @Override
  public boolean doOne(Instant now) {
    Piece piece = begin(now);
    if (piece == null) {
      return false;
    }
    if (piece.begun >= ENDED_BY) {
      LOG.error(
          "{} of {} is put off: the service ended while it did it", piece.kind, piece.subject);
      putOff(
          piece, "the service ended " + ENDED_BY + " times while it did this", LONGEST_WAIT, now);
      return true;
    }
    try {
      sql.transaction(dsl -> perform(dsl, piece, now));
      return true;
    } catch (RuntimeException e) {
      later(piece, e, now);
      return true;
    } catch (StackOverflowError e) {
      // A text that is built to do this stops its own piece of work, and no other.
      later(piece, new IllegalStateException("a text nests too deeply to be read", e), now);
      return true;
    }
  }

  /**
   * The next piece, of which it is noted first that this process begins it: should the process come
   * to its end over it, and the next one too, they must not go on so for ever.
   */
  private @Nullable Piece begin(Instant now) {
    return sql.transaction(
        dsl -> {
          Record row =
              dsl.fetchOne(
                  "select w.id, w.kind, w.project_id, w.subject_id, w.tries,"
                      + " case when w.begun_by = ? then w.begun - 1 else w.begun end as before"
                      + " from work w where w.due_at <= cast(? as timestamptz)"
                      + " and not exists (select 1 from work o where o.subject_id = w.subject_id"
                      + " and o.id < w.id and (o.kind <> ? or o.due_at <= cast(? as timestamptz))"
                      + " and "
                      + subject("o")
                      + " = "
                      + subject("w")
                      + ")"
                      + " order by w.due_at limit 1 for update skip locked",
                  process,
                  Sql.utc(now),
                  WorkKind.COUNT_STREAM.name(),
                  Sql.utc(now));
          if (row == null) {
            return null;
          }
          Piece piece =
              new Piece(
                  row.get(0, Long.class),
                  WorkKind.valueOf(row.get(1, String.class)),
                  row.get(2, Integer.class),
                  row.get(3, Long.class),
                  row.get(4, Integer.class),
                  row.get(5, Integer.class));
          // It may be lost with the database; that costs one more try.
          dsl.execute("set local synchronous_commit = off");
          dsl.execute(
              "update work set begun_by = ?, begun = ? where id = ?",
              process,
              piece.begun + 1,
              piece.id);
          return piece;
        });
  }

  /** In one transaction with taking it off the list; nothing when somebody else has it by now. */
  private boolean perform(DSLContext dsl, Piece piece, Instant now) {
    if (dsl.fetchOne("select 1 from work where id = ? for update skip locked", piece.id) == null) {
      return false;
    }
    // What was asked for several times by now is done once.
    dsl.deleteFrom(WORK)
        .where(
            WORK.KIND.eq(piece.kind.name()),
            WORK.SUBJECT_ID.eq(piece.subject),
            WORK.PROJECT_ID.eq(piece.projectId))
        .execute();
    Objects.requireNonNull(tasks.get(piece.kind)).perform(dsl, piece.projectId, piece.subject, now);
    return true;
  }

  /** Runs, groups and streams have numbers of their own. */
  private static String subject(String row) {
    return Arrays.stream(WorkKind.values())
        .map(kind -> "when '" + kind.name() + "' then " + kind.subject().ordinal())
        .collect(Collectors.joining(" ", "case " + row + ".kind ", " end"));
  }

  /** One piece that cannot be done must not keep those behind it waiting. */
  private void later(Piece piece, RuntimeException e, Instant now) {
    LOG.warn("{} of {} failed and will be tried again", piece.kind, piece.subject, e);
    Duration wait = FIRST_WAIT.multipliedBy(1L << Math.min(piece.tries, 20));
    putOff(
        piece,
        String.valueOf(e.getMessage()),
        wait.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : wait,
        now);
  }

  private void putOff(Piece piece, String error, Duration wait, Instant now) {
    sql.with(
        dsl ->
            dsl.update(WORK)
                .set(WORK.TRIES, piece.tries + 1)
                .set(WORK.BEGUN, 0)
                .setNull(WORK.BEGUN_BY)
                .set(WORK.DUE_AT, Sql.utc(now.plus(wait)))
                .set(WORK.LAST_ERROR, error.substring(0, Math.min(error.length(), MAX_ERROR)))
                .where(WORK.ID.eq(piece.id))
                .execute());
  }

  @Override
  public Waiting waiting(Instant now) {
    Record row =
        sql.with(
            dsl ->
                dsl.fetchSingle(
                    "select count(*), count(*) filter (where tries > 0), min(asked_at),"
                        + " (select last_error from work where tries > 0"
                        + " order by due_at desc limit 1) from work"));
    return new Waiting(
        row.get(0, Integer.class),
        row.get(1, Integer.class),
        row.get(2, Instant.class),
        row.get(3, String.class));
  }
}
