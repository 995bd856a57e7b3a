package org.vinecellar.store.ledger;

import static org.vinecellar.store.generated.Tables.REPAIR;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.RUN_CHANGE;
import static org.vinecellar.store.generated.Tables.WORK;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.Record2;
import org.jooq.impl.DSL;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.work.SumProof;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/**
 * Counts runs anew, one after the other and round and round, and sets what is kept of them against
 * it: counts, failures, what failure groups have in them and what explains that, and what changed
 * against the run before. What waits to be told anew is left for the next time. Thread-safe.
 */
public final class PgSumProof implements SumProof {
  private static final Logger LOG = LoggerFactory.getLogger(PgSumProof.class);

  /** Nobody looks at a run twice in that time. */
  private static final Duration OFTEN = Duration.ofDays(1);

  /** Failures that are no results, results that are no failures, and those told otherwise. */
  private static final String FAILURES =
      "select count(*) from (select r.place, case r.kind when 0 then r.outcome else 0 end as told"
          + " from result r where r.run_id = ? and r.outcome <> 0 and r.outcome in (1, 2)"
          + " and not r.superseded) r full join (select f.place, f.outcome from failure f"
          + " where f.run_id = ?) f on f.place = r.place where r.told is distinct from f.outcome";

  private static final String GROUPS =
      "select coalesce(n.group_id, g.group_id) as id from (select f.group_id, count(*)::int as results,"
          + " (count(*) filter (where f.decision_id is null))::int as open from failure f"
          + " where f.run_id = ? group by 1) n full join (select group_id, results, open from group_run"
          + " where project_id = ? and run_id = ?) g on g.group_id = n.group_id"
          + " where (n.results, n.open) is distinct from (g.results, g.open)";

  private static final String CAUSES =
      "select coalesce(n.group_id, g.group_id) as id from (select f.group_id, d.category_id,"
          + " count(*)::int as results from failure f join decision d on d.project_id = ?"
          + " and d.id = f.decision_id where f.run_id = ? and f.outcome <> 0 group by 1, 2) n"
          + " full join (select group_id, category_id, results from group_cause where project_id = ?"
          + " and run_id = ?) g on g.group_id = n.group_id and g.category_id = n.category_id"
          + " where n.results is distinct from g.results";

  private static final Set<WorkKind> DECIDING =
      EnumSet.of(WorkKind.CARRY_GROUP, WorkKind.CARRY_RUN, WorkKind.REGROUP, WorkKind.APPLY_RULES);

  private final Sql sql;

  /** On that database. */
  public PgSumProof(Sql sql) {
    this.sql = sql;
  }

  @Override
  public boolean proveOne(Instant now) {
    Record2<Integer, Long> next =
        sql.with(
            dsl ->
                dsl.select(RUN.PROJECT_ID, RUN.ID)
                    .from(RUN)
                    .where(
                        RUN.NUMBER.isNotNull(),
                        RUN.PROVEN_AT.le(Sql.utc(now.minus(OFTEN))),
                        RUN.IS_OPEN.isFalse())
                    .orderBy(RUN.PROVEN_AT)
                    .limit(1)
                    .fetchOne());
    if (next == null) {
      return false;
    }
    return sql.transaction(dsl -> prove(dsl, next.value1(), next.value2(), now));
  }

  /** Whether somebody may go on with the next one. */
  private static boolean prove(DSLContext dsl, int projectId, long runId, Instant now) {
    RunLedger ledger = RunLedger.open(dsl, projectId, runId);
    if (ledger == null || ledger.run().get(RUN.NUMBER) == null) {
      return true;
    }
    // What was decided just now is on its way into the sums.
    boolean waits =
        dsl.fetchExists(
            WORK,
            WORK.PROJECT_ID.eq(projectId),
            WORK.KIND.in(DECIDING.stream().map(WorkKind::name).toList()),
            WORK.TRIES.eq(DSL.inline(0)));
    if (waits) {
      return false;
    }
    List<String> wrong = new ArrayList<>(counts(dsl, projectId, ledger.run()));
    if (!wrong.isEmpty()) {
      // All that hangs on it is told anew with it.
      ledger.recountAll();
      RunLedger.Settled unused = ledger.settle(now);
    } else {
      if (ledger.run().get(RUN.EXPLAINED)) {
        wrong.addAll(failures(dsl, projectId, runId, ledger, now));
      }
      wrong.addAll(changes(dsl, projectId, runId, ledger, now));
    }
    dsl.update(RUN)
        .set(RUN.PROVEN_AT, Sql.utc(now))
        .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId))
        .execute();
    if (!wrong.isEmpty()) {
      String said = "run " + runId + ": " + String.join(", ", wrong);
      LOG.warn("sums were wrong and have been put right, {}", said);
      dsl.insertInto(REPAIR, REPAIR.PROJECT_ID, REPAIR.RUN_ID, REPAIR.MADE_AT, REPAIR.SAID)
          .values(projectId, runId, Sql.utc(now), said)
          .execute();
    }
    return true;
  }

  /** Of a run, and what its parts came to. */
  private static List<String> counts(DSLContext dsl, int projectId, Record run) {
    long runId = run.get(RUN.ID);
    Record counted =
        dsl.fetchOne(
            Tallies.standing("0", "result r where r.run_id = ? and not r.superseded"), runId);
    List<String> wrong = new ArrayList<>();
    for (String column : Tallies.COLUMNS) {
      int told = Objects.requireNonNull(run.get(column, Integer.class));
      int there = counted == null ? 0 : counted.get(column, Integer.class);
      if (told != there) {
        wrong.add(column + " " + told + " of " + there);
      }
    }
    if (FailingRow.isWrong(dsl, runId)) {
      wrong.add("tests that failed");
    }
    LostTime lost = LostTime.of(dsl, runId, run.get(RUN.SHARED));
    if (lost.failingUs() != run.get(RUN.FAILING_US) || lost.againUs() != run.get(RUN.AGAIN_US)) {
      wrong.add("time lost " + run.get(RUN.FAILING_US) + " and " + run.get(RUN.AGAIN_US));
    }
    Record parts =
        dsl.fetchSingle(
            "select coalesce(sum(duration_us), 0)::bigint as micros from part"
                + " where project_id = ? and run_id = ?",
            projectId,
            runId);
    if (!run.get(RUN.DURATION_US).equals(parts.get("micros", Long.class))) {
      wrong.add("duration " + run.get(RUN.DURATION_US) + " of " + parts.get("micros"));
    }
    return wrong;
  }

  private static List<String> failures(
      DSLContext dsl, int projectId, long runId, RunLedger ledger, Instant now) {
    int failures = dsl.fetchSingle(FAILURES, runId, runId).get(0, Integer.class);
    if (failures > 0) {
      ledger.explainAgain(now);
      return List.of(failures + " failures");
    }
    List<Long> groups = dsl.fetch(GROUPS, runId, projectId, runId).getValues("id", Long.class);
    List<Long> causes =
        dsl.fetch(CAUSES, projectId, runId, projectId, runId).getValues("id", Long.class);
    Set<Long> wrong = new HashSet<>(groups);
    wrong.addAll(causes);
    GroupCounts counts = new GroupCounts(dsl, projectId);
    if (wrong.isEmpty()) {
      return counts.causesAgain(runId) ? List.of("what explains its failures") : List.of();
    }
    counts.ofGroups(wrong);
    boolean unused = counts.causesAgain(runId);
    return List.of(
        groups.size() + " failure groups, " + causes.size() + " sums of what explains them");
  }

  /** What changed against the run before; not while that waits to be told anew. */
  private static List<String> changes(
      DSLContext dsl, int projectId, long runId, RunLedger ledger, Instant now) {
    boolean waits =
        dsl.fetchExists(
            WORK,
            WORK.PROJECT_ID.eq(projectId),
            WORK.KIND.eq(WorkKind.COMPARE_RUN.name()),
            WORK.SUBJECT_ID.eq(runId));
    if (waits) {
      return List.of();
    }
    Map<Long, Integer> kept =
        dsl.select(RUN_CHANGE.TEST_ID, RUN_CHANGE.CHANGE)
            .from(RUN_CHANGE)
            .where(RUN_CHANGE.RUN_ID.eq(runId))
            .fetchMap(RUN_CHANGE.TEST_ID, RUN_CHANGE.CHANGE);
    int told = kept.size();
    ChangeCounts there =
        ledger.lookAgain(one -> kept.remove(one.test(), (Integer) one.change().code()));
    boolean same = kept.isEmpty() && there.all() == told;
    if (same && there.equals(RunRows.changes(ledger.run()))) {
      return List.of();
    }
    WorkRows.ask(dsl, WorkKind.COMPARE_RUN, projectId, runId, now);
    return List.of(told + " changes of " + there.all());
  }

  @Override
  public Repairs repairs() {
    return sql.with(
        dsl -> {
          long times = dsl.fetchCount(REPAIR);
          Record last =
              dsl.select(REPAIR.MADE_AT, REPAIR.SAID)
                  .from(REPAIR)
                  .orderBy(REPAIR.MADE_AT.desc(), REPAIR.ID.desc())
                  .limit(DSL.inline(1))
                  .fetchOne();
          return last == null
              ? new Repairs(0, null, null)
              : new Repairs(times, last.get(REPAIR.MADE_AT).toInstant(), last.get(REPAIR.SAID));
        });
  }
}
