package org.vinecellar.store.ledger;

import static org.vinecellar.store.generated.Tables.GROUP_RUN;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.RUN_LEARNED;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/** A run leaves its stream, and enters another one. Its caller holds the run. */
final class RunMove {
  private final DSLContext dsl;
  private final int projectId;
  private final Record run;

  RunMove(DSLContext dsl, int projectId, Record run) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.run = run;
  }

  /** The runs after it follow the one before it now. */
  void leave(Instant now) {
    dsl.update(RUN)
        .set(RUN.PREVIOUS_ID, run.get(RUN.PREVIOUS_ID))
        .where(RUN.PROJECT_ID.eq(projectId), RUN.PREVIOUS_ID.eq(run.get(RUN.ID)))
        .returningResult(RUN.ID)
        .fetch(RUN.ID)
        .forEach(next -> WorkRows.ask(dsl, WorkKind.COMPARE_RUN, projectId, next, now));
    boolean learned =
        dsl.deleteFrom(RUN_LEARNED).where(RUN_LEARNED.RUN_ID.eq(run.get(RUN.ID))).execute() > 0;
    if (learned) {
      WorkRows.ask(dsl, WorkKind.LEARN_STREAM, projectId, run.get(RUN.STREAM_ID), now);
    }
    if (run.get(RUN.NUMBER) != null) {
      // Last: an upload holds its run when it comes to the stream.
      dsl.update(STREAM)
          .set(STREAM.RUNS, STREAM.RUNS.minus(1))
          .where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(run.get(RUN.STREAM_ID)))
          .execute();
    }
  }

  /** The columns of the run as they are in another stream. */
  Map<Field<?>, @Nullable Object> enter(long stream, Instant now) {
    int number =
        dsl.update(STREAM)
                .set(STREAM.NEXT_RUN_NUMBER, STREAM.NEXT_RUN_NUMBER.plus(1))
                .set(STREAM.RUNS, STREAM.RUNS.plus(1))
                .where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(stream))
                .returningResult(STREAM.NEXT_RUN_NUMBER)
                .fetchSingle(STREAM.NEXT_RUN_NUMBER)
            - 1;
    dsl.update(GROUP_RUN)
        .set(GROUP_RUN.STREAM_ID, stream)
        .where(GROUP_RUN.PROJECT_ID.eq(projectId), GROUP_RUN.RUN_ID.eq(run.get(RUN.ID)))
        .execute();
    RunOrder order = new RunOrder(dsl, projectId, stream);
    RunOrder.Place here =
        new RunOrder.Place(
            run.get(RUN.ID), number, run.get(RUN.STARTED_AT).toInstant(), run.get(RUN.BRANCH));
    Long previous = order.before(here);
    order.around(here, previous, now);
    WorkRows.ask(dsl, WorkKind.LEARN_RUN, projectId, run.get(RUN.ID), now);
    Map<Field<?>, @Nullable Object> columns = new HashMap<>();
    columns.put(RUN.STREAM_ID, stream);
    columns.put(RUN.NUMBER, number);
    columns.put(RUN.KEY_ROUND, round(stream));
    columns.put(RUN.PREVIOUS_ID, previous);
    return columns;
  }

  /** Another run there may have its key. */
  private int round(long stream) {
    return dsl.select(DSL.coalesce(DSL.max(RUN.KEY_ROUND), 0).plus(1))
        .from(RUN)
        .where(
            RUN.PROJECT_ID.eq(projectId),
            RUN.STREAM_ID.eq(stream),
            RUN.RUN_KEY.eq(run.get(RUN.RUN_KEY)))
        .fetchSingle(0, Integer.class);
  }
}
