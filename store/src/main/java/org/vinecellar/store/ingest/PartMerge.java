package org.vinecellar.store.ingest;

import static org.vinecellar.store.generated.Tables.RESULT;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.ingest.Retries;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.ledger.SuiteCounts;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.results.Tries;
import org.vinecellar.store.sql.Ids;

/**
 * A test that an earlier part of the run has tried, and that the new part tries again: one more
 * attempt. An outcome that somebody set for the earlier one is over with that: what was reported
 * counts again. A result that only stood for a test that was missed, for the set-up of its suite
 * had failed, gives way to any that comes.
 */
public final class PartMerge {
  private final DSLContext dsl;
  private final RunLedger ledger;
  private final Reservation place;
  private final List<Integer> before;

  /**
   * Of a part of a run.
   *
   * @param ledger of the run, open
   */
  public PartMerge(DSLContext dsl, RunLedger ledger, Reservation place) {
    this.dsl = dsl;
    this.ledger = ledger;
    this.place = place;
    this.before = Tries.before(dsl, place.projectId(), place.runId(), place.partNo());
  }

  /**
   * Joins the part's results with earlier ones.
   *
   * @param suites that the part has results in
   * @return whether results of tests that the part does not have are changed by it: set-ups that
   *     failed before and went well now
   */
  boolean merge(Collection<SuitePath> suites) {
    boolean elsewhere = setUpsThatWentWell(join(0, suites, new SuiteCounts()));
    List<Integer> after = Tries.after(dsl, place.projectId(), place.runId(), place.partNo());
    if (!after.isEmpty()) {
      joinLate(after);
    }
    return elsewhere;
  }

  /** Attempts of the same tests, later ones, have come already: this one stands before them. */
  private void joinLate(List<Integer> after) {
    List<Integer> all = new ArrayList<>(before);
    all.addAll(after);
    all.add(place.partNo());
    List<Integer> places = new ArrayList<>();
    List<Integer> outcomes = new ArrayList<>();
    List<Integer> attempts = new ArrayList<>();
    List<Integer> stumbled = new ArrayList<>();
    List<Integer> late = new ArrayList<>();
    dsl.fetch(
            "select o.test_id, o.place, o.part_no, coalesce(v.reported, o.told), o.attempts,"
                + " o.stumbled"
                + " from result o join part p on p.project_id = ? and p.run_id = o.run_id"
                + " and p.part_no = o.part_no"
                + " left join overruling v on v.run_id = o.run_id and v.place = o.place"
                + " where o.run_id = ? and o.part_no = any(?)"
                + " and o.attempts > 0 and o.test_id in (select test_id from result"
                + " where run_id = ? and place between ? and ?)"
                + " order by o.test_id, p.attempt nulls first, o.place",
            place.projectId(),
            place.runId(),
            Ids.of(all),
            place.runId(),
            Packed.first(place.partNo()),
            Packed.last(place.partNo()))
        .intoGroups(row -> row.get(0, Long.class))
        .values()
        .forEach(
            tries -> {
              Record last = tries.get(tries.size() - 1);
              if (last.get(2, Integer.class) == place.partNo()) {
                return;
              }
              Outcome standing = Outcome.ofCode(tries.get(0).get(3, Integer.class));
              int own = 0;
              for (Record one : tries.subList(1, tries.size())) {
                standing = Retries.standing(standing, Outcome.ofCode(one.get(3, Integer.class)));
              }
              for (Record one : tries) {
                if (one.get(2, Integer.class) == place.partNo()) {
                  stumbled.add(one.get(5, Boolean.class) ? Packed.STUMBLED : 0);
                  late.add(one.get(1, Integer.class));
                  own = one.get(4, Integer.class);
                }
              }
              places.add(last.get(1, Integer.class));
              outcomes.add(standing.code());
              attempts.add(Math.min(last.get(4, Integer.class) + own, Packed.MAX_ATTEMPTS));
            });
    if (places.isEmpty()) {
      return;
    }
    // What speaks for these tests stands in other parts.
    ledger.elsewhere();
    // What somebody overruled stays; what was reported before that is another now.
    dsl.execute(
        "with n as (select * from unnest(?::int[], ?::int[], ?::int[], ?::int[])"
            + " as n(place, outcome, attempts, stumbled)), told as (update overruling o"
            + " set reported = n.outcome from n where o.run_id = ? and o.place = n.place"
            + " returning o.place)"
            + " update result_row r set state = (r.state & ~cast(? as int))"
            + " | (n.attempts << 9) | n.stumbled | case when exists (select from told t"
            + " where t.place = n.place) then r.state & 7 else n.outcome end"
            + " from n where r.run_id = ? and r.place = n.place",
        places.toArray(Integer[]::new),
        outcomes.toArray(Integer[]::new),
        attempts.toArray(Integer[]::new),
        stumbled.toArray(Integer[]::new),
        place.runId(),
        Packed.OUTCOME_AND_ATTEMPTS,
        place.runId());
    dsl.execute(
        "update result_row set state = state | ? where run_id = ? and place = any(?)",
        Packed.SUPERSEDED,
        place.runId(),
        Ids.of(late));
  }

  /**
   * Joins results that a provisional part has got just now, from an ordinal on, with those that
   * were there. All of it can be taken back: {@link ProvisionalPart#remove}.
   *
   * @param counts of what has come just now; corrected by what stands no more
   */
  public void mergeLive(int from, SuiteCounts counts) {
    Set<Key128> unused = join(from, counts.suites(), counts);
  }

  /** Returns the suites in which tests have run now that a failed set-up had kept back. */
  private Set<Key128> join(int from, Collection<SuitePath> paths, SuiteCounts counts) {
    Map<Key128, SuitePath> suites = new HashMap<>();
    paths.forEach(suite -> suites.put(suite.key(), suite));
    List<Integer> places = new ArrayList<>();
    List<Integer> outcomes = new ArrayList<>();
    List<Integer> attempts = new ArrayList<>();
    List<Integer> stumbled = new ArrayList<>();
    Set<Key128> reached = new HashSet<>();
    for (Record row : supersede(from, suites)) {
      Outcome before = Outcome.ofCode(row.get(1, Integer.class));
      Outcome now = Outcome.ofCode(row.get(2, Integer.class));
      Outcome reported = Outcome.ofCode(row.get(7, Integer.class));
      int triesBefore = row.get(3, Integer.class);
      int triesNow = row.get(4, Integer.class);
      Outcome standing = Retries.standing(reported, now);
      places.add(row.get(0, Integer.class));
      outcomes.add(standing.code());
      attempts.add(Math.min(triesBefore + triesNow, Packed.MAX_ATTEMPTS));
      stumbled.add(row.get(9, Boolean.class) ? Packed.STUMBLED : 0);
      Long high = row.get(5, Long.class);
      SuitePath suite =
          high == null ? SuitePath.ROOT : suites.get(new Key128(high, row.get(6, Long.class)));
      if (suite != null) {
        if (reported == Outcome.NOT_REACHED && now != Outcome.NOT_REACHED) {
          reached.add(suite.key());
        }
        ResultKind kind = ResultKind.ofCode(row.get(8, Integer.class));
        Counts own =
            counts.of(suite).add(kind, before, -1).add(kind, now, -1).add(kind, standing, 1);
        int retried =
            (triesBefore + triesNow > 1 ? 1 : 0)
                - (triesBefore > 1 ? 1 : 0)
                - (triesNow > 1 ? 1 : 0);
        counts.set(suite, own.addRetried(kind == ResultKind.TEST ? retried : 0));
      }
    }
    if (!places.isEmpty()) {
      ledger.triedAgain();
      takeBackOverrulings();
      dsl.execute(
          "update result_row r set state = (r.state & ~cast(? as int)) | n.outcome"
              + " | (n.attempts << 9) | n.stumbled"
              + " from unnest(?::int[], ?::int[], ?::int[], ?::int[])"
              + " as n(place, outcome, attempts, stumbled) where r.run_id = ? and r.place = n.place",
          Packed.OUTCOME_AND_ATTEMPTS,
          places.toArray(Integer[]::new),
          outcomes.toArray(Integer[]::new),
          attempts.toArray(Integer[]::new),
          stumbled.toArray(Integer[]::new),
          place.runId());
    }
    return reached;
  }

  /** What somebody said of results that stand no more. */
  private void takeBackOverrulings() {
    dsl.fetch(
            "with gone as (delete from overruling o using result r where o.run_id = ?"
                + " and r.run_id = o.run_id and r.place = o.place and r.superseded"
                + " returning o.run_id, o.place, o.reported)"
                + " update result_row r set state = (r.state & ~63) | g.reported | (g.reported << 3)"
                + " from gone g where r.run_id = g.run_id and r.place = g.place returning r.place",
            place.runId())
        .getValues(0, Integer.class)
        .forEach(one -> ledger.toldAnew(Packed.part(one)));
  }

  /**
   * Where all tests that a failed set-up kept from running have run now, the set-up was tried again
   * and went well.
   */
  private boolean setUpsThatWentWell(Set<Key128> reached) {
    if (reached.isEmpty() || before.isEmpty()) {
      return false;
    }
    List<Integer> tries = new ArrayList<>(before);
    tries.add(place.partNo());
    return dsl.execute(
            "with s as (select s.id from suite s"
                + " join unnest(?::bigint[], ?::bigint[]) as k(high, low)"
                + " on s.key_high = k.high and s.key_low = k.low where s.project_id = ?"
                + " and not exists (select 1 from result r join test t"
                + " on t.project_id = s.project_id and t.id = r.test_id"
                + " where r.run_id = ? and not r.superseded and r.part_no = any(?)"
                + " and r.outcome = ? and t.suite_id = s.id)),"
                + " well as (select r.run_id, r.place from result r"
                + " join test t on t.project_id = ? and t.id = r.test_id"
                + " join s on s.id = t.suite_id where r.run_id = ?"
                + " and r.part_no = any(?) and r.kind = ? and not r.superseded)"
                + " update result_row r set state = r.state | ? from well w"
                + " where r.run_id = w.run_id and r.place = w.place",
            reached.stream().map(Key128::high).toArray(Long[]::new),
            reached.stream().map(Key128::low).toArray(Long[]::new),
            place.projectId(),
            place.runId(),
            Ids.of(tries),
            Outcome.NOT_REACHED.code(),
            place.projectId(),
            place.runId(),
            Ids.of(before),
            ResultKind.SETUP.code(),
            Packed.SUPERSEDED)
        > 0;
  }

  /** Those of the suites that the run has already. Parts mostly share none, and then no test. */
  private List<Long> shared(Collection<Key128> keys) {
    return dsl.fetch(
            "select s.id from suite s join unnest(?::bigint[], ?::bigint[]) as k(high, low)"
                + " on s.key_high = k.high and s.key_low = k.low"
                + " join run_suite x on x.suite_id = s.id"
                + " where s.project_id = ? and x.run_id = ?",
            keys.stream().map(Key128::high).toArray(Long[]::new),
            keys.stream().map(Key128::low).toArray(Long[]::new),
            place.projectId(),
            place.runId())
        .getValues(0, Long.class);
  }

  private List<Record> supersede(int from, Map<Key128, SuitePath> suites) {
    if (before.isEmpty() && from == 0 && !anyMissed()) {
      return List.of();
    }
    List<Long> shared = shared(suites.keySet());
    boolean loose = suites.containsKey(SuitePath.ROOT.key());
    if (shared.isEmpty() && !loose) {
      return List.of();
    }
    int first = Packed.place(place.partNo(), from);
    int last = Packed.last(place.partNo());
    return new ArrayList<>(
        dsl.fetch(
            "with pairs as (select n.place, o.place as old_place,"
                + " o.outcome as old_outcome, n.outcome as new_outcome,"
                + " o.attempts as old_attempts, n.attempts as new_attempts, s.key_high, s.key_low,"
                + " coalesce(v.reported, o.outcome) as reported, n.kind, o.stumbled"
                + " from result n join result o on o.run_id = n.run_id and o.test_id = n.test_id"
                + " and (o.part_no = any(?) or o.place between ? and ?"
                + " or (o.attempts = 0 and (o.place < ? or o.place > ?)))"
                + " and not o.superseded"
                + " join test t on t.project_id = ? and t.id = n.test_id"
                + " left join overruling v on v.run_id = o.run_id and v.place = o.place"
                + " left join suite s on s.project_id = t.project_id and s.id = t.suite_id"
                + " where n.run_id = ? and n.place between ? and ?"
                + " and (t.suite_id = any(?) or (? and t.suite_id is null))),"
                + " gone as (update result_row r set state = r.state | ? from pairs p"
                + " where r.run_id = ? and r.place = p.old_place returning 1)"
                + " select place, old_outcome, new_outcome, old_attempts, new_attempts, key_high,"
                + " key_low, reported, kind, stumbled from pairs",
            Ids.of(before),
            Packed.first(place.partNo()),
            first - 1,
            first,
            last,
            place.projectId(),
            place.runId(),
            first,
            last,
            Ids.of(shared),
            loose,
            Packed.SUPERSEDED,
            place.runId()));
  }

  /** Whether the run has results that only stand for tests that were missed. */
  private boolean anyMissed() {
    return dsl.fetchExists(
        RESULT,
        RESULT.RUN_ID.eq(place.runId()),
        RESULT.OUTCOME.ne(DSL.inline(0)),
        RESULT.OUTCOME.eq(Outcome.NOT_REACHED.code()),
        RESULT.ATTEMPTS.eq(0),
        RESULT.SUPERSEDED.isFalse());
  }
}
