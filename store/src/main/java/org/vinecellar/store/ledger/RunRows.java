package org.vinecellar.store.ledger;

import static org.vinecellar.store.generated.Tables.RUN;

import java.util.Map;
import org.jooq.Field;
import org.jooq.Record;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.results.Counts;

/** Changes in the columns of runs. */
public final class RunRows {
  private RunRows() {}

  /** Of seven columns in the order of {@link Counts}, from one on. */
  static Counts counts(Record row, int from) {
    int[] n = new int[Tallies.COLUMNS.size()];
    for (int i = 0; i < n.length; i++) {
      n[i] = row.get(from + i, Integer.class);
    }
    return new Counts(n[0], n[1], n[2], n[3], n[4], n[5], n[6]);
  }

  /** For the columns of a run. */
  public static Map<Field<Integer>, Integer> ofChanges(ChangeCounts changes) {
    return Map.of(
        RUN.NEW_FAILING, changes.newFailing(),
        RUN.FAILING_AS_BEFORE, changes.failingAsBefore(),
        RUN.FIXED, changes.fixed(),
        RUN.PASSED_ON_RETRY, changes.passedOnRetry(),
        RUN.ADDED, changes.added(),
        RUN.GONE, changes.gone(),
        RUN.RENAMED, changes.renamed());
  }

  /** Of a row of the run table. */
  public static ChangeCounts changes(Record row) {
    return new ChangeCounts(
        row.get(RUN.NEW_FAILING),
        row.get(RUN.FAILING_AS_BEFORE),
        row.get(RUN.FIXED),
        row.get(RUN.PASSED_ON_RETRY),
        row.get(RUN.ADDED),
        row.get(RUN.GONE),
        row.get(RUN.RENAMED));
  }
}
