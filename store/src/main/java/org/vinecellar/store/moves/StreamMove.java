package org.vinecellar.store.moves;

import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.moves.MoveStore;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.quarantine.HandingOn;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.streams.StreamNames;
import org.vinecellar.store.trust.Joining;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/** A stream becomes another one: its name at once, its runs in steps. */
public final class StreamMove {
  /** Runs that move in one transaction. */
  private static final int RUNS = 50;

  private StreamMove() {}

  /** From now on its name is one of the other stream, and nothing comes to it any more. */
  static long become(DSLContext dsl, int projectId, String stream, String target, Hand hand) {
    dsl.select(STREAM.ID)
        .from(STREAM)
        .where(StreamNames.is(projectId, stream).or(StreamNames.is(projectId, target)))
        .orderBy(STREAM.ID)
        .forUpdate()
        .fetch();
    Record from = PgMoveStore.locked(dsl, projectId, stream);
    Record to = PgMoveStore.locked(dsl, projectId, target);
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
    NamesBefore names = new NamesBefore(dsl, projectId);
    names.handOn(id, other);
    names.add(called, other, true);
    HandingOn.of(dsl, projectId, id, other, hand);
    Joining.handOn(dsl, projectId, id, other);
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

  /** Moves the oldest ones; how many there were. */
  static int moveSome(DSLContext dsl, int projectId, long stream, Instant now) {
    List<Long> runs =
        dsl.select(RUN.ID)
            .from(RUN)
            .where(RUN.PROJECT_ID.eq(projectId), RUN.STREAM_ID.eq(stream), RUN.NUMBER.isNotNull())
            .orderBy(RUN.STARTED_AT, RUN.NUMBER)
            .limit(RUNS)
            .fetch(RUN.ID);
    RunsMoving moving = new RunsMoving(dsl, projectId);
    RunLedger.hold(dsl, projectId, runs);
    Record from =
        dsl.selectFrom(STREAM)
            .where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(stream))
            .fetchOne();
    Long to = from == null ? null : target(dsl, projectId, from);
    if (from == null || to == null) {
      return 0;
    }
    moving.lockStreams(stream, to);
    Hand hand = new Hand(Objects.requireNonNullElse(from.get(STREAM.BECOMES_BY), ""), now);
    String name = from.get(STREAM.NAME);
    String called = name.substring(name.indexOf(' ') + 1);
    int moved = 0;
    for (long run : runs) {
      RunLedger ledger = RunLedger.open(dsl, projectId, run);
      if (ledger != null
          && ledger.run().get(RUN.NUMBER) != null
          && ledger.run().get(RUN.STREAM_ID) == stream) {
        MoveStore.Place unused = moving.move(ledger, called, to, hand);
        moved++;
      }
    }
    return moved;
  }
}
