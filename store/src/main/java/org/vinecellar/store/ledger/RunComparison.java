package org.vinecellar.store.ledger;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RUN;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.results.Outcome;

/** Two runs side by side, whichever they are; nothing of it is kept. */
public final class RunComparison {
  private RunComparison() {}

  /** A test of which something is to be told, by its number. */
  public record Different(
      long test, Change change, @Nullable Outcome before, @Nullable Outcome now) {}

  /** How many there are, and some of them, by change in its order. */
  public record Found(ChangeCounts counts, List<Different> some) {
    /** Copies the list. */
    public Found {
      some = List.copyOf(some);
    }
  }

  /**
   * Compares a run with another one, in a transaction.
   *
   * @param limit of those that are listed
   */
  public static Found between(DSLContext dsl, int projectId, long runId, long with, int limit) {
    Record run =
        dsl.select(RUN.STREAM_ID, RUN.SHARED, RUN.IS_OPEN)
            .from(RUN)
            .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId))
            .fetchOne();
    if (run == null) {
      return new Found(ChangeCounts.NONE, List.of());
    }
    boolean mayGrow =
        run.get(RUN.IS_OPEN)
            || dsl.fetchExists(
                PART,
                PART.PROJECT_ID.eq(projectId),
                PART.RUN_ID.eq(runId),
                PART.BROKEN_OFF.isTrue().or(PART.LIVE_BATCH.isNotNull()));
    List<Different> some = new ArrayList<>();
    ChangeCounts counts =
        new RunChanges(dsl, projectId, run.get(RUN.STREAM_ID), runId, run.get(RUN.SHARED), with)
            .look(!mayGrow, limit, some::add);
    some.sort(Comparator.comparing(one -> one.change().code()));
    return new Found(counts, some.subList(0, Math.min(limit, some.size())));
  }
}
