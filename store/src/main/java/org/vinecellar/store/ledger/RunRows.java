package org.vinecellar.store.ledger;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.RUN_SUITE;

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

  /** Of a row of the table of suites, with the suites inside it. */
  public static Counts suiteCounts(Record row) {
    return new Counts(
        row.get(RUN_SUITE.PASSED),
        row.get(RUN_SUITE.FAILED),
        row.get(RUN_SUITE.ERRORED),
        row.get(RUN_SUITE.SKIPPED),
        row.get(RUN_SUITE.NOT_REACHED),
        row.get(RUN_SUITE.RETRIED),
        row.get(RUN_SUITE.SET_UPS));
  }

  /** Of a row of the table of suites, without the suites inside it. */
  public static Counts ownSuiteCounts(Record row) {
    return new Counts(
        row.get(RUN_SUITE.OWN_PASSED),
        row.get(RUN_SUITE.OWN_FAILED),
        row.get(RUN_SUITE.OWN_ERRORED),
        row.get(RUN_SUITE.OWN_SKIPPED),
        row.get(RUN_SUITE.OWN_NOT_REACHED),
        row.get(RUN_SUITE.OWN_RETRIED),
        row.get(RUN_SUITE.OWN_SET_UPS));
  }

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
        RUN.STILL_FAILING, changes.stillFailing(),
        RUN.FIXED, changes.fixed(),
        RUN.PASSED_ON_RETRY, changes.passedOnRetry(),
        RUN.ADDED, changes.added(),
        RUN.GONE, changes.gone());
  }

  /** For the columns of a run. */
  public static Map<Field<Integer>, Integer> ofRun(Counts counts) {
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
  public static Map<Field<Integer>, Integer> ofPart(Counts counts) {
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
