package org.vinecellar.store.results;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;

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

  /**
   * As long as a table has fewer runs, PostgreSQL keeps no statistics of them: it would know all
   * that it has seen, believe that there is no other, take a run that has just come for a single
   * row, and go through all of it for each of its rows. Without them it takes a run for a share of
   * the table.
   */
  private static final int FEW = 256;

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
      dsl.execute("alter table " + name + " alter column run_id set statistics 0");
    }
  }

  /** Tables that have enough runs by now, and of whose runs no statistics are kept. */
  public static List<String> uncounted(DSLContext dsl) {
    long last =
        dsl.fetchSingle("select coalesce(max(id), 0)::bigint as last from run")
            .get("last", Long.class);
    List<String> tables = new ArrayList<>();
    for (long n = 0; n * RUNS + FEW <= last; n++) {
      for (String table : TABLES) {
        tables.add(table + "_" + n);
      }
    }
    return dsl.fetch(
            "select c.relname from pg_catalog.pg_class c join pg_catalog.pg_attribute a"
                + " on a.attrelid = c.oid and a.attname = 'run_id' and a.attstattarget = 0"
                + " where c.relnamespace = current_schema()::regnamespace"
                + " and c.relname = any(?) order by 1",
            DSL.val(tables.toArray(String[]::new)))
        .into(String.class);
  }

  /** Has them kept from here on. Nobody who reads or writes waits for it. */
  public static void count(DSLContext dsl, String table) {
    dsl.execute("set local lock_timeout = '10s'");
    dsl.execute("alter table " + table + " alter column run_id set statistics -1");
  }
}
