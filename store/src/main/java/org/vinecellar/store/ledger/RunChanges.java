package org.vinecellar.store.ledger;

import static org.vinecellar.store.generated.Tables.RUN;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Consumer;
import org.jooq.Cursor;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.CopyBuffer;
import org.vinecellar.store.sql.Ids;

/** What changed against the run before, kept with the run so that looking at it costs nothing. */
final class RunChanges {
  private static final String ON_RETRY = "attempts > 1 and stumbled as on_retry";

  private static final int BATCH = 5000;

  private final DSLContext dsl;
  private final int projectId;
  private final long runId;
  private final boolean shared;
  private final @Nullable Long previous;
  private final boolean previousShared;

  /**
   * @param runId of a run that the caller has locked
   * @param shared whether several results of a test may stand in it
   * @param previous the run to compare it with; null for none
   */
  RunChanges(DSLContext dsl, int projectId, long runId, boolean shared, @Nullable Long previous) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.runId = runId;
    this.shared = shared;
    this.previous = previous;
    this.previousShared =
        previous != null
            && dsl.fetchExists(
                RUN, RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(previous), RUN.SHARED.isTrue());
  }

  /**
   * Compares the whole of it.
   *
   * @param tellGone false while the run is open: a test that has not come yet may still come
   */
  ChangeCounts compare(boolean tellGone) {
    dsl.execute("delete from run_change where run_id = ?", runId);
    // Right after a large upload PostgreSQL knows nothing of its rows, takes them for few, and
    // would go through the whole run for each of them.
    dsl.execute("set local enable_nestloop = off");
    try (Cursor<Record> rows = candidates()) {
      return write(tellGone, rows, ChangeCounts.NONE);
    } finally {
      dsl.execute("set local enable_nestloop = on");
    }
  }

  /**
   * Looks at the differences and keeps nothing.
   *
   * @param tellGone as for {@link #compare}
   * @param most of one kind that are handed on; all are counted
   */
  ChangeCounts look(boolean tellGone, int most, Consumer<RunComparison.Different> each) {
    dsl.execute("set local enable_nestloop = off");
    Map<Change, Integer> handed = new EnumMap<>(Change.class);
    ChangeCounts counts = ChangeCounts.NONE;
    try (Cursor<Record> rows = candidates()) {
      while (rows.hasNext()) {
        Record row = Objects.requireNonNull(rows.fetchNext());
        Outcome before = outcome(row, 1);
        Change change = change(row, before);
        if (change == null || (change == Change.GONE && !tellGone)) {
          continue;
        }
        counts = counts.add(change, 1);
        if (handed.merge(change, 1, Integer::sum) <= most) {
          each.accept(
              new RunComparison.Different(row.get(0, Long.class), change, before, outcome(row, 2)));
        }
      }
    }
    dsl.execute("set local enable_nestloop = on");
    return counts;
  }

  /**
   * The same, when nothing but the results of one part came to an open run.
   *
   * @param before what was told without it
   * @param again whether something was told already of tests that the part has
   */
  ChangeCounts addPart(int part, ChangeCounts before, boolean again) {
    dsl.execute("set local enable_nestloop = off");
    ChangeCounts counts = again ? takeBack(part, before) : before;
    Integer namesake = namesake(part);
    try (Cursor<Record> rows =
        namesake == null ? candidatesOfPart(part) : candidatesBeside(part, namesake)) {
      return namesake == null ? write(false, rows, counts) : writeBeside(rows, counts);
    } finally {
      dsl.execute("set local enable_nestloop = on");
    }
  }

  private ChangeCounts takeBack(int part, ChangeCounts before) {
    ChangeCounts counts = before;
    for (Record gone :
        dsl.fetch(
            "with gone as (delete from run_change c using result n where c.run_id = ?"
                + " and n.run_id = ? and n.place between ? and ? and n.test_id = c.test_id"
                + " returning c.change)"
                + " select change, count(*) from gone group by 1",
            runId,
            runId,
            Packed.first(part),
            Packed.last(part))) {
      counts = counts.add(Change.ofCode(gone.get(0, Integer.class)), -gone.get(1, Integer.class));
    }
    return counts;
  }

  private ChangeCounts write(boolean tellGone, Cursor<Record> rows, ChangeCounts before) {
    Told told = new Told(before);
    while (rows.hasNext()) {
      Record row = Objects.requireNonNull(rows.fetchNext());
      Change change = change(row, outcome(row, 1));
      if (tellGone || change != Change.GONE) {
        told.add(row, change);
      }
    }
    return told.send();
  }

  /** Tests that the part of the same name did not have are looked for in all of the run before. */
  private ChangeCounts writeBeside(Cursor<Record> rows, ChangeCounts before) {
    Told told = new Told(before);
    List<Record> elsewhere = new ArrayList<>();
    while (rows.hasNext()) {
      Record row = Objects.requireNonNull(rows.fetchNext());
      if (row.get(1) != null) {
        told.add(row, change(row, outcome(row, 1)));
      } else {
        elsewhere.add(row);
      }
      if (elsewhere.size() == BATCH || !rows.hasNext()) {
        Map<Integer, Outcome> outcomes = outcomesBefore(elsewhere);
        elsewhere.forEach(
            one -> told.add(one, change(one, outcomes.get(one.get(0, Integer.class)))));
        elsewhere.clear();
      }
    }
    return told.send();
  }

  private Map<Integer, Outcome> outcomesBefore(List<Record> tests) {
    Map<Integer, Outcome> outcomes = new HashMap<>();
    if (!tests.isEmpty()) {
      dsl.fetch(
              "select test_id, outcome from result"
                  + " where run_id = ? and test_id = any(?) and not superseded",
              previous,
              Ids.of(tests.stream().map(row -> row.get(0, Integer.class)).toList()))
          .forEach(
              row ->
                  outcomes.put(
                      row.get(0, Integer.class), Outcome.ofCode(row.get(1, Integer.class))));
    }
    return outcomes;
  }

  /** Changes that are told, and their rows. */
  private final class Told {
    private final CopyBuffer copy = new CopyBuffer("run_change (run_id, test_id, change)", 3);
    private ChangeCounts counts;

    Told(ChangeCounts before) {
      counts = before;
    }

    void add(Record row, @Nullable Change change) {
      if (change == null) {
        return;
      }
      counts = counts.add(change, 1);
      copy.row();
      copy.int4(Math.toIntExact(runId));
      copy.int4(row.get(0, Integer.class));
      copy.int4(change.code());
    }

    ChangeCounts send() {
      dsl.connection(connection -> copy.send(connection.unwrap(PGConnection.class).getCopyAPI()));
      return counts;
    }
  }

  private @Nullable Change change(Record row, @Nullable Outcome before) {
    Change change = Change.between(before, outcome(row, 2), row.get(3, Boolean.class));
    return change == Change.ADDED && previous == null ? null : change;
  }

  private static @Nullable Outcome outcome(Record row, int column) {
    Integer code = row.get(column, Integer.class);
    return code == null ? null : Outcome.ofCode(code);
  }

  /**
   * Only tests of which something may be told: test, outcome before, outcome now, whether on retry.
   */
  private Cursor<Record> candidates() {
    if (previous == null) {
      return dsl.resultQuery(
              "select test_id, null::int, outcome, on_retry from "
                  + standing(shared)
                  + " n where outcome in (1, 2) or on_retry",
              runId)
          .fetchSize(BATCH)
          .fetchLazy();
    }
    return dsl.resultQuery(
            "select coalesce(n.test_id, p.test_id), p.outcome, n.outcome, coalesce(n.on_retry, false)"
                + " from "
                + standing(shared)
                + " n full outer join "
                + standing(previousShared)
                + " p on p.test_id = n.test_id"
                + " where (n.test_id is null or p.test_id is null or n.outcome in (1, 2)"
                + " or p.outcome in (1, 2) or n.on_retry)"
                // A failed set-up that is not there any more is not a test that is gone.
                + " and (n.test_id is not null or p.kind = 0)",
            runId,
            previous)
        .fetchSize(BATCH)
        .fetchLazy();
  }

  /** The part of the run before that has the same name, and so the same tests, mostly. */
  private @Nullable Integer namesake(int part) {
    return previous == null || shared || previousShared
        ? null
        : dsl.fetchOne(
                "select max(o.part_no) from part n join part o on o.project_id = n.project_id"
                    + " and o.run_id = ? and o.name = n.name"
                    + " where n.project_id = ? and n.run_id = ? and n.part_no = ?",
                previous,
                projectId,
                runId,
                part)
            .get(0, Integer.class);
  }

  /** As beside one part of the run before; what was before is null for a test it does not have. */
  private Cursor<Record> candidatesBeside(int part, int before) {
    return dsl.resultQuery(
            "select n.test_id, p.outcome, n.outcome, n.on_retry from (select *, "
                + ON_RETRY
                + " from result where run_id = ? and place between ? and ? and not superseded) n"
                + " left join (select test_id, outcome from result where run_id = ?"
                + " and place between ? and ? and not superseded) p on p.test_id = n.test_id"
                + " where p.test_id is null or n.outcome in (1, 2) or p.outcome in (1, 2)"
                + " or n.on_retry",
            runId,
            Packed.first(part),
            Packed.last(part),
            previous,
            Packed.first(before),
            Packed.last(before))
        .fetchSize(BATCH)
        .fetchLazy();
  }

  /**
   * The tests of a run and what stands of each, its number to be bound: of several results that
   * stand, the worst.
   */
  private static String standing(boolean several) {
    return several
        ? "(select test_id, (array[0, 3, 4, 1, 2])[max(array_position(array[0, 3, 4, 1, 2],"
            + " outcome))] as outcome, bool_or(attempts > 1 and stumbled) as on_retry,"
            + " max(kind) as kind from result where run_id = ? and not superseded group by test_id)"
        : "(select test_id, outcome, kind, "
            + ON_RETRY
            + " from result where run_id = ? and not superseded)";
  }

  private Cursor<Record> candidatesOfPart(int part) {
    return dsl.resultQuery(
            "select n.test_id, p.outcome, n.outcome, n.on_retry from "
                + standing(shared)
                + " n join (select distinct test_id from result where run_id = ?"
                + " and place between ? and ? and not superseded) m on m.test_id = n.test_id"
                + " left join "
                + standing(previousShared)
                + " p on p.test_id = n.test_id"
                + " where p.test_id is null or n.outcome in (1, 2) or p.outcome in (1, 2)"
                + " or n.on_retry",
            runId,
            runId,
            Packed.first(part),
            Packed.last(part),
            previous == null ? 0L : previous)
        .fetchSize(BATCH)
        .fetchLazy();
  }
}
