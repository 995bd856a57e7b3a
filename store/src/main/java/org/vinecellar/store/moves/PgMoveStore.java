package org.vinecellar.store.moves;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.STREAM_NAME_BEFORE;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.Edit;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.moves.MoveStore;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.runs.StreamName;
import org.vinecellar.store.edits.EditRows;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.streams.StreamNames;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/** Moves what runs hang on: nothing of their results is touched. Thread-safe. */
public final class PgMoveStore implements MoveStore {
  /** Runs of a stream that move in one transaction. */
  private static final int RUNS = 50;

  private final Sql sql;

  /** On that database. */
  public PgMoveStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public void rename(int projectId, String stream, String name, Hand hand) {
    String wanted = StreamName.checked(name);
    sql.transaction(
        dsl -> {
          Record known = locked(dsl, projectId, stream);
          long id = known.get(STREAM.ID);
          String called = known.get(STREAM.NAME);
          if (called.equals(wanted)) {
            return true;
          }
          Record other =
              dsl.select(STREAM.RUNS)
                  .from(STREAM)
                  .where(STREAM.PROJECT_ID.eq(projectId), STREAM.NAME.eq(wanted))
                  .fetchOne();
          if (other != null) {
            throw new CellarException(
                ProblemCode.ALREADY_EXISTS,
                "another stream is called “"
                    + wanted
                    + "”; to have the runs of “"
                    + called
                    + "” there, move them");
          }
          free(dsl, projectId, wanted);
          called(dsl, projectId, id, wanted);
          nameBefore(dsl, projectId, called, id, false);
          return true;
        });
  }

  /** Nobody begins a run in it, renames it or takes it away before the transaction ends. */
  private static Record locked(DSLContext dsl, int projectId, String stream) {
    Record known =
        dsl.select(STREAM.ID, STREAM.NAME)
            .from(STREAM)
            .where(StreamNames.is(projectId, stream), STREAM.DELETED_AT.isNull())
            .forUpdate()
            .fetchOne();
    if (known == null) {
      throw noStream(stream);
    }
    return known;
  }

  private static CellarException noStream(String stream) {
    return new CellarException(ProblemCode.NOT_FOUND, "there is no stream “" + stream + "”");
  }

  private static void called(DSLContext dsl, int projectId, long id, String name) {
    dsl.update(STREAM)
        .set(STREAM.NAME, name)
        .where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(id))
        .execute();
  }

  private static void free(DSLContext dsl, int projectId, String name) {
    dsl.deleteFrom(STREAM_NAME_BEFORE)
        .where(STREAM_NAME_BEFORE.PROJECT_ID.eq(projectId), STREAM_NAME_BEFORE.NAME.eq(name))
        .execute();
  }

  private static void nameBefore(
      DSLContext dsl, int projectId, String name, long id, boolean moved) {
    dsl.insertInto(STREAM_NAME_BEFORE)
        .set(STREAM_NAME_BEFORE.PROJECT_ID, projectId)
        .set(STREAM_NAME_BEFORE.NAME, name)
        .set(STREAM_NAME_BEFORE.STREAM_ID, id)
        .set(STREAM_NAME_BEFORE.MOVED, moved)
        .onConflict(STREAM_NAME_BEFORE.PROJECT_ID, STREAM_NAME_BEFORE.NAME)
        .doUpdate()
        .set(STREAM_NAME_BEFORE.STREAM_ID, id)
        .set(STREAM_NAME_BEFORE.MOVED, moved)
        .execute();
  }

  @Override
  public Place moveRun(int projectId, long runId, String target, Hand hand) {
    return sql.transaction(
        dsl -> {
          lockRuns(dsl, projectId, List.of(runId));
          RunLedger ledger = RunLedger.open(dsl, projectId, runId);
          if (ledger == null || ledger.run().get(RUN.NUMBER) == null) {
            throw new CellarException(ProblemCode.NOT_FOUND, "there is no run “" + runId + "”");
          }
          Long to = StreamNames.held(dsl, projectId, target);
          if (to == null) {
            throw noStream(target);
          }
          refuse(dsl, projectId, ledger.run(), to, target);
          lockStreams(dsl, projectId, ledger.run().get(RUN.STREAM_ID), to);
          String from = StreamNames.of(dsl, projectId, ledger.run().get(RUN.STREAM_ID));
          return move(dsl, projectId, ledger, from, to, hand);
        });
  }

  private static void refuse(DSLContext dsl, int projectId, Record run, long to, String target) {
    if (run.get(RUN.STREAM_ID) == to) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "the run is in “" + target + "” already");
    }
    boolean comes =
        run.get(RUN.IS_OPEN)
            || dsl.fetchExists(
                PART,
                PART.PROJECT_ID.eq(projectId),
                PART.RUN_ID.eq(run.get(RUN.ID)),
                PART.LIVE_BATCH.isNotNull());
    if (comes) {
      throw new CellarException(
          ProblemCode.RUN_OPEN,
          "parts of the run may still come, and would begin it anew where it was; close it first");
    }
    Integer same =
        !run.get(RUN.RUN_KEY).startsWith("content:")
            ? null
            : dsl.select(RUN.NUMBER)
                .from(RUN)
                .where(
                    RUN.PROJECT_ID.eq(projectId),
                    RUN.STREAM_ID.eq(to),
                    RUN.RUN_KEY.eq(run.get(RUN.RUN_KEY)),
                    RUN.NUMBER.isNotNull())
                .limit(1)
                .fetchOne(RUN.NUMBER);
    if (same != null) {
      throw new CellarException(
          ProblemCode.SAME_FILES,
          "run #" + same + " of “" + target + "” is the very same upload; delete this one instead");
    }
  }

  /** These and those that follow them, as everybody who changes several does: by their number. */
  private static void lockRuns(DSLContext dsl, int projectId, List<Long> runs) {
    dsl.fetch(
        "select id from run where project_id = ? and (id = any(?) or previous_id = any(?))"
            + " order by id for update",
        projectId,
        Ids.of(runs),
        Ids.of(runs));
  }

  /** After the runs: an upload holds its run when it comes to the stream. */
  private static void lockStreams(DSLContext dsl, int projectId, long one, long other) {
    dsl.fetch(
        "select id from stream where project_id = ? and id in (?, ?) order by id for no key update",
        projectId,
        one,
        other);
  }

  private static Place move(
      DSLContext dsl, int projectId, RunLedger ledger, String from, long to, Hand hand) {
    Record run = ledger.run();
    int number = ledger.moveTo(to, hand.now());
    RunLedger.Settled unused = ledger.settle(hand.now());
    String target = StreamNames.of(dsl, projectId, to);
    new EditRows(dsl, projectId, Subject.run(run.get(RUN.ID)), hand)
        .add(
            new Edit.Difference("stream", from + "#" + run.get(RUN.NUMBER), target + "#" + number),
            null,
            null);
    return new Place(target, number);
  }

  @Override
  public Moved moveAll(int projectId, String stream, String target, Hand hand) {
    long id = sql.transaction(dsl -> become(dsl, projectId, stream, target, hand));
    // What is left when this fails is work.
    return sql.transaction(
        dsl -> {
          int moved = moveSome(dsl, projectId, id, hand.now());
          int left =
              dsl.fetchCount(
                  RUN, RUN.PROJECT_ID.eq(projectId), RUN.STREAM_ID.eq(id), RUN.NUMBER.isNotNull());
          return new Moved(StreamNames.of(dsl, projectId, id), moved, left);
        });
  }

  /** From now on its name is one of the other stream, and nothing comes to it any more. */
  private static long become(
      DSLContext dsl, int projectId, String stream, String target, Hand hand) {
    dsl.select(STREAM.ID)
        .from(STREAM)
        .where(StreamNames.is(projectId, stream).or(StreamNames.is(projectId, target)))
        .orderBy(STREAM.ID)
        .forUpdate()
        .fetch();
    Record from = locked(dsl, projectId, stream);
    Record to = locked(dsl, projectId, target);
    long id = from.get(STREAM.ID);
    long other = to.get(STREAM.ID);
    String called = from.get(STREAM.NAME);
    if (id == other) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "“" + stream + "” and “" + target + "” are the same stream; nothing was moved");
    }
    dsl.update(STREAM)
        .set(STREAM.NAME, RunLedger.REMOVED + id + " " + called)
        .set(STREAM.DELETED_AT, Sql.utc(hand.now()))
        .set(STREAM.BECOMES_ID, other)
        .set(STREAM.BECOMES_BY, hand.name())
        .where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(id))
        .execute();
    dsl.update(STREAM_NAME_BEFORE)
        .set(STREAM_NAME_BEFORE.STREAM_ID, other)
        .set(STREAM_NAME_BEFORE.MOVED, true)
        .where(STREAM_NAME_BEFORE.PROJECT_ID.eq(projectId), STREAM_NAME_BEFORE.STREAM_ID.eq(id))
        .execute();
    nameBefore(dsl, projectId, called, other, true);
    WorkRows.ask(dsl, WorkKind.MOVE_STREAM, projectId, id, hand.now());
    return id;
  }

  /** Work: moves some of the runs of a stream; at last the stream is taken away. */
  public static void moveRuns(DSLContext dsl, int projectId, long stream, Instant now) {
    int unused = moveSome(dsl, projectId, stream, now);
    // Who was about to begin a run in it is waited for, and seen.
    Record from = at(dsl, projectId, stream);
    if (from == null || from.get(STREAM.BECOMES_ID) == null) {
      return;
    }
    Integer left =
        dsl.select(DSL.count(RUN.NUMBER))
            .from(RUN)
            .where(RUN.PROJECT_ID.eq(projectId), RUN.STREAM_ID.eq(stream), RUN.DELETED_AT.isNull())
            .groupBy(RUN.STREAM_ID)
            .fetchOne(0, Integer.class);
    if (left == null) {
      dsl.deleteFrom(STREAM).where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(stream)).execute();
    } else if (target(dsl, projectId, from) == null) {
      WorkRows.ask(dsl, WorkKind.REMOVE_STREAM, projectId, stream, now);
    } else {
      WorkRows.ask(
          dsl, WorkKind.MOVE_STREAM, projectId, stream, left > 0 ? now : now.plusSeconds(5));
    }
  }

  private static @Nullable Record at(DSLContext dsl, int projectId, long stream) {
    return dsl.selectFrom(STREAM)
        .where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(stream))
        .forUpdate()
        .fetchOne();
  }

  /** The stream that one becomes, which may have become another; null when that was taken away. */
  private static @Nullable Long target(DSLContext dsl, int projectId, Record from) {
    Record to = from;
    while (to != null && to.get(STREAM.BECOMES_ID) != null) {
      to =
          dsl.selectFrom(STREAM)
              .where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(to.get(STREAM.BECOMES_ID)))
              .fetchOne();
    }
    return to == null || to.get(STREAM.DELETED_AT) != null ? null : to.get(STREAM.ID);
  }

  private static int moveSome(DSLContext dsl, int projectId, long stream, Instant now) {
    List<Long> runs =
        dsl.select(RUN.ID)
            .from(RUN)
            .where(RUN.PROJECT_ID.eq(projectId), RUN.STREAM_ID.eq(stream), RUN.NUMBER.isNotNull())
            .orderBy(RUN.STARTED_AT, RUN.NUMBER)
            .limit(RUNS)
            .fetch(RUN.ID);
    lockRuns(dsl, projectId, runs);
    Record from =
        dsl.selectFrom(STREAM)
            .where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(stream))
            .fetchOne();
    Long to = from == null ? null : target(dsl, projectId, from);
    if (from == null || to == null) {
      return 0;
    }
    lockStreams(dsl, projectId, stream, to);
    Hand hand = new Hand(Objects.requireNonNullElse(from.get(STREAM.BECOMES_BY), ""), now);
    String name = from.get(STREAM.NAME);
    String called = name.substring(name.indexOf(' ') + 1);
    int moved = 0;
    for (long run : runs) {
      RunLedger ledger = RunLedger.open(dsl, projectId, run);
      if (ledger != null
          && ledger.run().get(RUN.NUMBER) != null
          && ledger.run().get(RUN.STREAM_ID) == stream) {
        Place unused = move(dsl, projectId, ledger, called, to, hand);
        moved++;
      }
    }
    return moved;
  }

  @Override
  public List<String> namesBefore(int projectId, String stream) {
    return sql.with(
        dsl ->
            dsl.select(STREAM_NAME_BEFORE.NAME)
                .from(STREAM_NAME_BEFORE)
                .join(STREAM)
                .on(
                    STREAM.PROJECT_ID.eq(STREAM_NAME_BEFORE.PROJECT_ID),
                    STREAM.ID.eq(STREAM_NAME_BEFORE.STREAM_ID))
                .where(StreamNames.is(projectId, stream))
                .orderBy(STREAM_NAME_BEFORE.NAME)
                .fetch(STREAM_NAME_BEFORE.NAME));
  }

  @Override
  public boolean forget(int projectId, String name) {
    return sql.with(
        dsl ->
            dsl.deleteFrom(STREAM_NAME_BEFORE)
                    .where(
                        STREAM_NAME_BEFORE.PROJECT_ID.eq(projectId),
                        STREAM_NAME_BEFORE.NAME.eq(name))
                    .execute()
                > 0);
  }
}
