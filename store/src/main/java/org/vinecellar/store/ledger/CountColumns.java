package org.vinecellar.store.ledger;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.RUN_SUITE;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.Field;
import org.jooq.Record;
import org.vinecellar.core.results.Counts;

/** Seven columns that hold counts. */
public final class CountColumns {
  /** Of a run. */
  public static final CountColumns OF_RUN =
      new CountColumns(
          RUN.PASSED,
          RUN.FAILED,
          RUN.ERRORED,
          RUN.SKIPPED,
          RUN.NOT_REACHED,
          RUN.RETRIED,
          RUN.SET_UPS);

  /** Of a part. */
  public static final CountColumns OF_PART =
      new CountColumns(
          PART.PASSED,
          PART.FAILED,
          PART.ERRORED,
          PART.SKIPPED,
          PART.NOT_REACHED,
          PART.RETRIED,
          PART.SET_UPS);

  /** Of a suite with the suites inside it. */
  public static final CountColumns OF_SUITE =
      new CountColumns(
          RUN_SUITE.PASSED,
          RUN_SUITE.FAILED,
          RUN_SUITE.ERRORED,
          RUN_SUITE.SKIPPED,
          RUN_SUITE.NOT_REACHED,
          RUN_SUITE.RETRIED,
          RUN_SUITE.SET_UPS);

  /** Of a suite without the suites inside it. */
  public static final CountColumns OF_SUITE_ALONE =
      new CountColumns(
          RUN_SUITE.OWN_PASSED,
          RUN_SUITE.OWN_FAILED,
          RUN_SUITE.OWN_ERRORED,
          RUN_SUITE.OWN_SKIPPED,
          RUN_SUITE.OWN_NOT_REACHED,
          RUN_SUITE.OWN_RETRIED,
          RUN_SUITE.OWN_SET_UPS);

  private final List<Field<Integer>> columns;

  private CountColumns(
      Field<Integer> passed,
      Field<Integer> failed,
      Field<Integer> errored,
      Field<Integer> skipped,
      Field<Integer> notReached,
      Field<Integer> retried,
      Field<Integer> setUps) {
    this.columns = List.of(passed, failed, errored, skipped, notReached, retried, setUps);
  }

  /** All seven. */
  public List<Field<Integer>> all() {
    return columns;
  }

  /** What a row says. */
  public Counts of(Record row) {
    int[] n = columns.stream().mapToInt(row::get).toArray();
    return new Counts(n[0], n[1], n[2], n[3], n[4], n[5], n[6]);
  }

  /** What a row is to say. */
  public Map<Field<Integer>, Integer> to(Counts counts) {
    int[] n = {
      counts.passed(),
      counts.failed(),
      counts.errored(),
      counts.skipped(),
      counts.notReached(),
      counts.retried(),
      counts.setUps()
    };
    Map<Field<Integer>, Integer> values = new HashMap<>();
    for (int i = 0; i < n.length; i++) {
      values.put(columns.get(i), n[i]);
    }
    return values;
  }
}
