package org.vinecellar.store.ingest;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.ingest.Retries;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;

/**
 * A test that an earlier part of the run has tried: the new try is one more attempt. An outcome
 * that somebody set for the earlier one is over with that: what was reported counts again.
 */
final class PartMerge {
  private final DSLContext dsl;
  private final Reservation place;

  PartMerge(DSLContext dsl, Reservation place) {
    this.dsl = dsl;
    this.place = place;
  }

  /**
   * Joins the part's results with earlier ones; corrects the counts that the part adds.
   *
   * @return whether results that the part does not have are changed by it: set-ups that failed
   *     before and went well now
   */
  boolean merge(SuiteCounts counts) {
    return setUpsThatWentWell(join(0, counts), counts);
  }

  /**
   * Joins results that a provisional part has got just now, from an ordinal on, with those that
   * were there. All of it can be taken back: {@link LiveRows#remove}.
   */
  void mergeLive(int from, SuiteCounts counts) {
    join(from, counts);
  }

  /** Returns the suites in which tests have run now that a failed set-up had kept back. */
  private Map<Key128, SuitePath> join(int from, SuiteCounts counts) {
    Map<Key128, SuitePath> suites = new HashMap<>();
    counts.suites().forEach(suite -> suites.put(suite.key(), suite));
    List<Integer> ordinals = new ArrayList<>();
    List<Short> outcomes = new ArrayList<>();
    List<Short> attempts = new ArrayList<>();
    Map<Key128, SuitePath> reached = new HashMap<>();
    for (Record row : supersede(from, suites)) {
      Outcome before = Outcome.ofCode(row.get(1, Integer.class));
      Outcome now = Outcome.ofCode(row.get(2, Integer.class));
      Outcome reported = Outcome.ofCode(row.get(7, Integer.class));
      int triesBefore = row.get(3, Integer.class);
      int triesNow = row.get(4, Integer.class);
      Outcome standing = Retries.standing(reported, now);
      ordinals.add(row.get(0, Integer.class));
      outcomes.add((short) standing.code());
      attempts.add((short) Math.min(triesBefore + triesNow, Short.MAX_VALUE));
      Long high = row.get(5, Long.class);
      SuitePath suite =
          high == null ? SuitePath.ROOT : suites.get(new Key128(high, row.get(6, Long.class)));
      if (suite != null) {
        if (reported == Outcome.NOT_REACHED && now != Outcome.NOT_REACHED) {
          reached.put(suite.key(), suite);
        }
        ResultKind kind = ResultKind.ofCode(row.get(8, Integer.class));
        Counts own =
            counts.of(suite).add(kind, before, -1).add(kind, now, -1).add(kind, standing, 1);
        int retried = 1 - (triesBefore > 1 ? 1 : 0) - (triesNow > 1 ? 1 : 0);
        counts.set(suite, own.addRetried(kind == ResultKind.TEST ? retried : 0));
      }
    }
    if (!ordinals.isEmpty()) {
      dsl.execute(
          "with gone as (delete from overruling o using result r where o.project_id = ?"
              + " and o.run_id = ? and r.project_id = o.project_id and r.run_id = o.run_id"
              + " and r.part_no = o.part_no and r.ordinal = o.ordinal and r.superseded"
              + " returning o.project_id, o.run_id, o.part_no, o.ordinal, o.reported),"
              + " back as (update result r set outcome = g.reported from gone g"
              + " where r.project_id = g.project_id and r.run_id = g.run_id"
              + " and r.part_no = g.part_no and r.ordinal = g.ordinal)"
              + " update run set overruled = overruled - (select count(*) from gone)"
              + " where project_id = ? and id = ?",
          place.projectId(),
          place.runId(),
          place.projectId(),
          place.runId());
      dsl.execute(
          "update result r set outcome = n.outcome, attempts = n.attempts"
              + " from unnest(?::int[], ?::smallint[], ?::smallint[])"
              + " as n(ordinal, outcome, attempts)"
              + " where r.project_id = ? and r.run_id = ? and r.part_no = ?"
              + " and r.ordinal = n.ordinal",
          ordinals.toArray(Integer[]::new),
          outcomes.toArray(Short[]::new),
          attempts.toArray(Short[]::new),
          place.projectId(),
          place.runId(),
          place.partNo());
    }
    return reached;
  }

  /**
   * Where all tests that a failed set-up kept from running have run now, the set-up was tried again
   * and went well.
   */
  private boolean setUpsThatWentWell(Map<Key128, SuitePath> reached, SuiteCounts counts) {
    if (reached.isEmpty()) {
      return false;
    }
    boolean any = false;
    for (Record row :
        dsl.fetch(
            "with s as (select s.id, s.key_high, s.key_low from suite s"
                + " join unnest(?::bigint[], ?::bigint[]) as k(high, low)"
                + " on s.key_high = k.high and s.key_low = k.low where s.project_id = ?"
                + " and not exists (select 1 from result r join test t"
                + " on t.project_id = r.project_id and t.id = r.test_id"
                + " where r.project_id = s.project_id and r.run_id = ? and not r.superseded"
                + " and r.outcome = ? and t.suite_id = s.id))"
                + " update result r set superseded = true from test t, s"
                + " where r.project_id = ? and r.run_id = ? and r.part_no <> ? and r.kind = ?"
                + " and not r.superseded and t.project_id = r.project_id and t.id = r.test_id"
                + " and s.id = t.suite_id returning s.key_high, s.key_low, r.outcome",
            reached.keySet().stream().map(Key128::high).toArray(Long[]::new),
            reached.keySet().stream().map(Key128::low).toArray(Long[]::new),
            place.projectId(),
            place.runId(),
            Outcome.NOT_REACHED.code(),
            place.projectId(),
            place.runId(),
            place.partNo(),
            ResultKind.SETUP.code())) {
      SuitePath suite =
          Objects.requireNonNull(
              reached.get(new Key128(row.get(0, Long.class), row.get(1, Long.class))));
      Outcome outcome = Outcome.ofCode(row.get(2, Integer.class));
      counts.set(suite, counts.of(suite).add(ResultKind.SETUP, outcome, -1));
      any = true;
    }
    return any;
  }

  /** Those of the suites that the run has already. Parts mostly share none, and then no test. */
  private Long[] shared(Collection<Key128> keys) {
    return dsl
        .fetch(
            "select s.id from suite s join unnest(?::bigint[], ?::bigint[]) as k(high, low)"
                + " on s.key_high = k.high and s.key_low = k.low"
                + " join run_suite x on x.project_id = s.project_id and x.suite_id = s.id"
                + " where s.project_id = ? and x.run_id = ?",
            keys.stream().map(Key128::high).toArray(Long[]::new),
            keys.stream().map(Key128::low).toArray(Long[]::new),
            place.projectId(),
            place.runId())
        .stream()
        .map(row -> row.get(0, Long.class))
        .toArray(Long[]::new);
  }

  private List<Record> supersede(int from, Map<Key128, SuitePath> suites) {
    Long[] shared = shared(suites.keySet());
    boolean loose = suites.containsKey(SuitePath.ROOT.key());
    if (shared.length == 0 && !loose) {
      return List.of();
    }
    return new ArrayList<>(
        dsl.fetch(
            "with pairs as (select n.ordinal, o.part_no as old_part, o.ordinal as old_ordinal,"
                + " o.outcome as old_outcome, n.outcome as new_outcome,"
                + " o.attempts as old_attempts, n.attempts as new_attempts, s.key_high, s.key_low,"
                + " coalesce(v.reported, o.outcome) as reported, n.kind"
                + " from result n join result o on o.project_id = n.project_id"
                + " and o.run_id = n.run_id and o.test_id = n.test_id"
                + " and (o.part_no <> n.part_no or o.ordinal < ?)"
                + " and not o.superseded"
                + " join test t on t.project_id = n.project_id and t.id = n.test_id"
                + " left join overruling v on v.project_id = o.project_id"
                + " and v.run_id = o.run_id and v.part_no = o.part_no and v.ordinal = o.ordinal"
                + " left join suite s on s.project_id = t.project_id and s.id = t.suite_id"
                + " where n.project_id = ? and n.run_id = ? and n.part_no = ?"
                + " and n.ordinal >= ?"
                + " and (t.suite_id = any(?) or (? and t.suite_id is null))),"
                + " gone as (update result r set superseded = true from pairs p"
                + " where r.project_id = ? and r.run_id = ? and r.part_no = p.old_part"
                + " and r.ordinal = p.old_ordinal returning 1)"
                + " select ordinal, old_outcome, new_outcome, old_attempts, new_attempts, key_high,"
                + " key_low, reported, kind"
                + " from pairs",
            from,
            place.projectId(),
            place.runId(),
            place.partNo(),
            from,
            shared,
            loose,
            place.projectId(),
            place.runId()));
  }
}
