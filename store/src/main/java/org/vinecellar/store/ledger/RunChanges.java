package org.vinecellar.store.ledger;

import static org.vinecellar.store.generated.Tables.RUN;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import org.jooq.Cursor;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.store.results.NowNames;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.CopyBuffer;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Sql;

/** What changed against the run before, kept with the run so that looking at it costs nothing. */
final class RunChanges {
  private static final String ON_RETRY = "attempts > 1 and stumbled as on_retry";

  private static final int BATCH = 5000;

  private final DSLContext dsl;
  private final int projectId;
  private final long streamId;
  private final long runId;
  private final boolean shared;
  private final @Nullable Long previous;
  private final boolean previousShared;

  /**
   * @param streamId whose names count
   * @param runId of a run that the caller has locked
   * @param shared whether several results of a test may stand in it
   * @param previous the run to compare it with; null for none
   */
  RunChanges(
      DSLContext dsl,
      int projectId,
      long streamId,
      long runId,
      boolean shared,
      @Nullable Long previous) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.streamId = streamId;
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
    NowNames.hold(dsl, streamId);
    dsl.execute("delete from run_change where run_id = ?", runId);
    return Sql.withoutLoops(
        dsl,
        () -> {
          try (Cursor<Record> rows = candidates()) {
            return write(new Told(ChangeCounts.NONE, tellGone), rows);
          }
        });
  }

  /**
   * Looks at the differences and keeps nothing.
   *
   * @param tellGone as for {@link #compare}
   * @param most of one kind that are handed on; all are counted
   */
  ChangeCounts look(boolean tellGone, int most, Consumer<RunComparison.Different> each) {
    Map<Change, Integer> handed = new EnumMap<>(Change.class);
    Told told = new Told(ChangeCounts.NONE, tellGone);
    return Sql.withoutLoops(
        dsl,
        () -> {
          try (Cursor<Record> rows = candidates()) {
            told.all(
                rows,
                one -> {
                  if (handed.merge(one.change(), 1, Integer::sum) <= most) {
                    each.accept(one);
                  }
                });
          }
          return told.counts;
        });
  }

  /**
   * The same, when nothing but the results of one part came to an open run.
   *
   * @param before what was told without it
   * @param again whether something was told already of tests that the part has
   */
  ChangeCounts addPart(int part, ChangeCounts before, boolean again) {
    NowNames.hold(dsl, streamId);
    return Sql.withoutLoops(
        dsl,
        () -> {
          ChangeCounts counts = again ? takeBack(part, before) : before;
          Integer namesake = namesake(part);
          try (Cursor<Record> rows =
              namesake == null ? candidatesOfPart(part) : candidatesBeside(part, namesake)) {
            Told told = new Told(counts, false);
            told.beside = namesake != null;
            return write(told, rows);
          }
        });
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

  private ChangeCounts write(Told told, Cursor<Record> rows) {
    CopyBuffer copy = new CopyBuffer("run_change (run_id, test_id, change)", 3);
    told.all(
        rows,
        one -> {
          copy.row();
          copy.int4(Math.toIntExact(runId));
          copy.int4(Math.toIntExact(one.test()));
          copy.int4(one.change().code());
        });
    dsl.connection(connection -> copy.send(connection.unwrap(PGConnection.class).getCopyAPI()));
    return told.counts;
  }

  private Map<Integer, Outcome> outcomesBefore(List<Record> rows) {
    Map<Integer, Outcome> outcomes = new HashMap<>();
    if (!rows.isEmpty()) {
      dsl.fetch(
              "select test_id, outcome from result"
                  + " where run_id = ? and test_id = any(?) and not superseded",
              previous,
              Ids.of(tests(rows)))
          .forEach(
              row ->
                  outcomes.put(
                      row.get(0, Integer.class), Outcome.ofCode(row.get(1, Integer.class))));
    }
    return outcomes;
  }

  /** Counts what is told, and hands it on. */
  private final class Told {
    private final boolean tellGone;
    private final @Nullable OtherNames names =
        previous == null ? null : OtherNames.of(dsl, projectId, streamId, runId, previous);

    /**
     * Tests that the part of the same name did not have are looked for in all of the run before.
     */
    private boolean beside;

    private ChangeCounts counts;

    Told(ChangeCounts before, boolean tellGone) {
      this.counts = before;
      this.tellGone = tellGone;
    }

    void all(Cursor<Record> rows, Consumer<RunComparison.Different> each) {
      List<Record> alone = new ArrayList<>();
      while (rows.hasNext()) {
        Record row = Objects.requireNonNull(rows.fetchNext());
        boolean isAlone = row.get(1) == null || row.get(2) == null;
        if (isAlone && (names != null || beside)) {
          alone.add(row);
        } else {
          tell(row, outcome(row, 1), each);
        }
        if (alone.size() == BATCH || !rows.hasNext()) {
          tellAlone(alone, each);
          alone.clear();
        }
      }
    }

    /** Of which one of the runs has nothing, as far as is known. */
    private void tellAlone(List<Record> alone, Consumer<RunComparison.Different> each) {
      Map<Integer, Outcome> elsewhere = beside ? outcomesBefore(alone) : Map.of();
      List<Record> came = new ArrayList<>();
      List<Record> went = new ArrayList<>();
      for (Record row : alone) {
        Outcome before = elsewhere.get(test(row));
        if (before != null) {
          tell(row, before, each);
        } else {
          (row.get(2) == null ? went : came).add(row);
        }
      }
      Map<Integer, OtherNames.Before> was = names == null ? Map.of() : names.before(tests(came));
      for (Record row : came) {
        OtherNames.Before before = was.get(test(row));
        if (before == null || before.madeUp()) {
          tell(row, before == null ? null : before.outcome(), each);
        } else {
          Outcome now = Objects.requireNonNull(outcome(row, 2));
          boolean onRetry = row.get(3, Boolean.class);
          tell(row, before.outcome(), Change.renamed(before.outcome(), now, onRetry), each);
        }
      }
      Set<Integer> still = names == null || !tellGone ? Set.of() : names.stillHere(tests(went));
      went.removeIf(row -> still.contains(test(row)));
      went.forEach(row -> tell(row, outcome(row, 1), each));
    }

    private void tell(
        Record row, @Nullable Outcome before, Consumer<RunComparison.Different> each) {
      Change change = Change.between(before, outcome(row, 2), row.get(3, Boolean.class));
      boolean isFirst = change == Change.ADDED && previous == null;
      if (change != null && !isFirst && (tellGone || change != Change.GONE)) {
        tell(row, before, change, each);
      }
    }

    private void tell(
        Record row,
        @Nullable Outcome before,
        Change change,
        Consumer<RunComparison.Different> each) {
      counts = counts.add(change, 1);
      each.accept(new RunComparison.Different(test(row), change, before, outcome(row, 2)));
    }
  }

  private static int test(Record row) {
    return row.get(0, Integer.class);
  }

  private static List<Integer> tests(List<Record> rows) {
    return rows.stream().map(RunChanges::test).toList();
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
