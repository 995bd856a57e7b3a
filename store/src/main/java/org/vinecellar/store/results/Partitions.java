package org.vinecellar.store.results;

import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import org.jooq.DSLContext;

/**
 * The parts into which the tables of results are cut, by the numbers of runs. Numbers are given in
 * the order of arrival, so that what comes is written into small indexes whatever time it tells of,
 * and old tables are left alone. Thread-safe.
 */
public final class Partitions {
  /** Runs in a table; with 5 000 results a run some 40 million rows. */
  static final long RUNS = 8192;

  private static final List<String> TABLES =
      List.of(
          "result_row",
          "attempt",
          "result_note",
          "attachment",
          "run_suite",
          "run_change",
          "failure",
          "stumble");

  /** Makes instances that come to the same end one after the other wait for each other. */
  private static final long LOCK = 0x76696e6550617274L;

  /** The first run for which there may be no table. */
  private final AtomicLong end = new AtomicLong();

  /**
   * Makes the tables for a run, and for the next ones when they will soon be wanted, within the
   * caller's transaction. Nobody who reads or writes others waits.
   */
  public void cover(DSLContext dsl, long runId) {
    if (wanted(runId) <= end.get()) {
      return;
    }
    for (long n = runId / RUNS; n * RUNS < wanted(runId); n++) {
      if (isMissing(dsl, n)) {
        dsl.execute("select pg_advisory_xact_lock(?)", LOCK);
        if (isMissing(dsl, n)) {
          make(dsl, n);
        }
      }
    }
  }

  /** To be called when the transaction of {@link #cover} has been committed. */
  public void covered(long runId) {
    end.accumulateAndGet(wanted(runId), Math::max);
  }

  /** The next tables are made when three quarters of the present ones are used. */
  private static long wanted(long runId) {
    return ((runId + RUNS / 4) / RUNS + 1) * RUNS;
  }

  /** By the catalogue itself: what a session remembers of names may be older than the lock. */
  private static boolean isMissing(DSLContext dsl, long n) {
    return dsl.fetchSingle(
            "select not exists (select 1 from pg_catalog.pg_class where relname = ?"
                + " and relnamespace = current_schema()::regnamespace)",
            TABLES.get(TABLES.size() - 1) + "_" + n)
        .get(0, Boolean.class);
  }

  /** To attach a table that is there locks less than to create it as a part of another. */
  private static void make(DSLContext dsl, long n) {
    for (String table : TABLES) {
      String name = table + "_" + n;
      dsl.execute("create table " + name + " (like " + table + " including all)");
      dsl.execute(
          "alter table "
              + table
              + " attach partition "
              + name
              + " for values from ("
              + n * RUNS
              + ") to ("
              + (n + 1) * RUNS
              + ")");
    }
  }
}
