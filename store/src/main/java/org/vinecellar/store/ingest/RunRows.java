package org.vinecellar.store.ingest;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RUN;

import java.util.Map;
import org.jooq.Field;
import org.jooq.Record;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.results.Counts;

/** Counts in the columns of runs and parts. */
public final class RunRows {
  private RunRows() {}

  /** Of a row of the run table. */
  public static Counts counts(Record row) {
    return new Counts(
        row.get(RUN.PASSED),
        row.get(RUN.FAILED),
        row.get(RUN.ERRORED),
        row.get(RUN.SKIPPED),
        row.get(RUN.NOT_REACHED),
        row.get(RUN.RETRIED),
        row.get(RUN.SET_UPS));
  }

  /** Of a row of the part table. */
  public static Counts partCounts(Record row) {
    return new Counts(
        row.get(PART.PASSED),
        row.get(PART.FAILED),
        row.get(PART.ERRORED),
        row.get(PART.SKIPPED),
        row.get(PART.NOT_REACHED),
        row.get(PART.RETRIED),
        row.get(PART.SET_UPS));
  }

  /** For the columns of a run. */
  static Map<Field<Integer>, Integer> ofRun(Counts counts) {
    return Map.of(
        RUN.PASSED, counts.passed(),
        RUN.FAILED, counts.failed(),
        RUN.ERRORED, counts.errored(),
        RUN.SKIPPED, counts.skipped(),
        RUN.NOT_REACHED, counts.notReached(),
        RUN.RETRIED, counts.retried(),
        RUN.SET_UPS, counts.setUps());
  }

  /** For the columns of a part. */
  static Map<Field<Integer>, Integer> ofPart(Counts counts) {
    return Map.of(
        PART.PASSED, counts.passed(),
        PART.FAILED, counts.failed(),
        PART.ERRORED, counts.errored(),
        PART.SKIPPED, counts.skipped(),
        PART.NOT_REACHED, counts.notReached(),
        PART.RETRIED, counts.retried(),
        PART.SET_UPS, counts.setUps());
  }

  /** Of a row of the run table. */
  public static ChangeCounts changes(Record row) {
    return new ChangeCounts(
        row.get(RUN.NEW_FAILING),
        row.get(RUN.STILL_FAILING),
        row.get(RUN.FIXED),
        row.get(RUN.PASSED_ON_RETRY),
        row.get(RUN.ADDED),
        row.get(RUN.GONE));
  }
}
