package org.vinecellar.store.work;

import static org.vinecellar.store.generated.Tables.WORK;
import static org.vinecellar.store.generated.Tables.WORK_BEGUN;

import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicReference;
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

  private record Piece(long id, WorkKind kind, int projectId, long subject, int tries) {}

  @Override
  public boolean doOne(Instant now) {
    AtomicReference<@Nullable Piece> begun = new AtomicReference<>();
    try {
      return sql.transaction(dsl -> doNext(dsl, begun, now));
    } catch (RuntimeException e) {
      return later(begun.get(), e, now);
    } catch (StackOverflowError e) {
      // A text that is built to do this stops its own piece of work, and no other.
      return later(
          begun.get(), new IllegalStateException("a text nests too deeply to be read", e), now);
    }
  }

  /** In one transaction with taking it off the list, so that nobody else is at it. */
  private boolean doNext(DSLContext dsl, AtomicReference<@Nullable Piece> begun, Instant now) {
    Piece piece = next(dsl, now);
    if (piece == null) {
      return false;
    }
    begun.set(piece);
    if (begin(piece) >= ENDED_BY) {
      LOG.error(
          "{} of {} is put off: the service ended while it did it", piece.kind, piece.subject);
      putOff(
          dsl,
          piece,
          "the service ended " + ENDED_BY + " times while it did this",
          now.plus(LONGEST_WAIT));
      return true;
    }
    // What was asked for several times by now is done once.
    List<Long> done =
        dsl.deleteFrom(WORK)
            .where(
                WORK.KIND.eq(piece.kind.name()),
                WORK.SUBJECT_ID.eq(piece.subject),
                WORK.PROJECT_ID.eq(piece.projectId))
            .returning(WORK.ID)
            .fetch(WORK.ID);
    dsl.deleteFrom(WORK_BEGUN).where(WORK_BEGUN.WORK_ID.in(done)).execute();
    Objects.requireNonNull(tasks.get(piece.kind)).perform(dsl, piece.projectId, piece.subject, now);
    return true;
  }

  private static @Nullable Piece next(DSLContext dsl, Instant now) {
    Record row =
        dsl.fetchOne(
            "select w.id, w.kind, w.project_id, w.subject_id, w.tries"
                + " from work w where w.due_at <= cast(? as timestamptz)"
                + " and not exists (select 1 from work o where o.subject_id = w.subject_id"
                + " and o.id < w.id and (o.kind <> ? or o.due_at <= cast(? as timestamptz))"
                + " and "
                + subject("o")
                + " = "
                + subject("w")
                + ")"
                + " order by w.due_at limit 1 for update skip locked",
            Sql.utc(now),
            WorkKind.COUNT_STREAM.name(),
            Sql.utc(now));
    return row == null
        ? null
        : new Piece(
            row.get(0, Long.class),
            WorkKind.valueOf(row.get(1, String.class)),
            row.get(2, Integer.class),
            row.get(3, Long.class),
            row.get(4, Integer.class));
  }

  /**
   * Notes that this process begins it, whatever becomes of the transaction that does it: should the
   * process come to its end over it, and the next one too, they must not go on so for ever.
   *
   * @return how many others did, of which none is at it any more
   */
  private int begin(Piece piece) {
    return sql.transaction(
        dsl -> {
          // It may be lost with the database; that costs one more try.
          dsl.execute("set local synchronous_commit = off");
          dsl.insertInto(WORK_BEGUN, WORK_BEGUN.WORK_ID, WORK_BEGUN.PROCESS)
              .values(piece.id, process)
              .onConflictDoNothing()
              .execute();
          return dsl.fetchCount(
              WORK_BEGUN, WORK_BEGUN.WORK_ID.eq(piece.id), WORK_BEGUN.PROCESS.ne(process));
        });
  }

  /** Runs, groups and streams have numbers of their own. */
  private static String subject(String row) {
    return Arrays.stream(WorkKind.values())
        .map(kind -> "when '" + kind.name() + "' then " + kind.subject().ordinal())
        .collect(Collectors.joining(" ", "case " + row + ".kind ", " end"));
  }

  /** One piece that cannot be done must not keep those behind it waiting. */
  private boolean later(@Nullable Piece piece, RuntimeException e, Instant now) {
    if (piece == null) {
      throw e;
    }
    LOG.warn("{} of {} failed and will be tried again", piece.kind, piece.subject, e);
    Duration wait = FIRST_WAIT.multipliedBy(1L << Math.min(piece.tries, 20));
    Instant due = now.plus(wait.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : wait);
    return sql.transaction(dsl -> putOff(dsl, piece, String.valueOf(e.getMessage()), due));
  }

  private static boolean putOff(DSLContext dsl, Piece piece, String error, Instant due) {
    dsl.update(WORK)
        .set(WORK.TRIES, piece.tries + 1)
        .set(WORK.DUE_AT, Sql.utc(due))
        .set(WORK.LAST_ERROR, error.substring(0, Math.min(error.length(), MAX_ERROR)))
        .where(WORK.ID.eq(piece.id))
        .execute();
    dsl.deleteFrom(WORK_BEGUN).where(WORK_BEGUN.WORK_ID.eq(piece.id)).execute();
    return true;
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
