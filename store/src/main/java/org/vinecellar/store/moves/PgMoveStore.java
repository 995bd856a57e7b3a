package org.vinecellar.store.moves;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.exception.DataAccessException;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.moves.MoveStore;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.runs.StreamName;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.streams.StreamNames;

/** Moves what runs hang on: nothing of their results is touched. Thread-safe. */
public final class PgMoveStore implements MoveStore {
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
            throw taken(called, wanted);
          }
          NamesBefore names = new NamesBefore(dsl, projectId);
          boolean unused = names.forget(wanted);
          try {
            called(dsl, projectId, id, wanted);
          } catch (DataAccessException e) {
            // Somebody else gave that name meanwhile.
            throw Sql.isDuplicate(e) ? taken(called, wanted) : e;
          }
          names.add(called, id, false);
          return true;
        });
  }

  private static CellarException taken(String called, String wanted) {
    return new CellarException(
        ProblemCode.ALREADY_EXISTS,
        "another stream is called “"
            + wanted
            + "”; to have the runs of “"
            + called
            + "” there, move them");
  }

  private static void called(DSLContext dsl, int projectId, long id, String name) {
    dsl.update(STREAM)
        .set(STREAM.NAME, name)
        .where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(id))
        .execute();
  }

  /** Nobody begins a run in it, renames it or takes it away before the transaction ends. */
  static Record locked(DSLContext dsl, int projectId, String stream) {
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

  @Override
  public Place moveRun(int projectId, long runId, String target, Hand hand) {
    return sql.transaction(
        dsl -> {
          RunsMoving moving = new RunsMoving(dsl, projectId);
          RunLedger.hold(dsl, projectId, List.of(runId));
          RunLedger ledger = RunLedger.open(dsl, projectId, runId);
          if (ledger == null || ledger.run().get(RUN.NUMBER) == null) {
            throw new CellarException(ProblemCode.NOT_FOUND, "there is no run “" + runId + "”");
          }
          Long to = StreamNames.held(dsl, projectId, target);
          if (to == null) {
            throw noStream(target);
          }
          refuse(dsl, projectId, ledger.run(), to, target);
          moving.lockStreams(ledger.run().get(RUN.STREAM_ID), to);
          String from = StreamNames.of(dsl, projectId, ledger.run().get(RUN.STREAM_ID));
          return moving.move(ledger, from, to, hand);
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

  @Override
  public Moved moveAll(int projectId, String stream, String target, Hand hand) {
    Begun begun =
        sql.transaction(
            dsl -> {
              long id = StreamMove.become(dsl, projectId, stream, target, hand);
              return new Begun(id, StreamNames.of(dsl, projectId, id), runs(dsl, projectId, id));
            });
    // What is left when this fails is work; what that does meanwhile counts as moved, and when it
    // was quick the stream is gone.
    return sql.transaction(
        dsl -> {
          int unused = StreamMove.moveSome(dsl, projectId, begun.id, hand.now());
          int left = runs(dsl, projectId, begun.id);
          return new Moved(begun.target, Math.max(0, begun.runs - left), left);
        });
  }

  /** A stream that becomes another, with so many runs. */
  private record Begun(long id, String target, int runs) {}

  private static int runs(DSLContext dsl, int projectId, long stream) {
    return dsl.fetchCount(
        RUN, RUN.PROJECT_ID.eq(projectId), RUN.STREAM_ID.eq(stream), RUN.NUMBER.isNotNull());
  }

  @Override
  public List<String> namesBefore(int projectId, String stream) {
    return sql.with(dsl -> new NamesBefore(dsl, projectId).of(stream));
  }

  @Override
  public boolean forget(int projectId, String name) {
    return sql.with(dsl -> new NamesBefore(dsl, projectId).forget(name));
  }
}
