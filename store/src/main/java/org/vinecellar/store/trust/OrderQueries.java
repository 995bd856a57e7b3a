package org.vinecellar.store.trust;

import static org.vinecellar.store.generated.Tables.TEST;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IntSummaryStatistics;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.trust.TrustStore.RanBefore;
import org.vinecellar.core.trust.history.OrderClue;
import org.vinecellar.core.trust.history.PastResult;
import org.vinecellar.store.results.KeptTests;
import org.vinecellar.store.results.Packed;

/** What ran before a test in the same part of its runs. */
final class OrderQueries {
  /** Of so many of its latest runs. */
  private static final int RUNS = 40;

  /** So many that ran just before it are looked at. */
  private static final int BEFORE = 200;

  private static final int MOVED = 3;

  /** The place of a result within its part. */
  private static final int IN_PART = (1 << 20) - 1;

  private final DSLContext dsl;
  private final int projectId;

  OrderQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  /**
   * @param results of the test, the latest first
   */
  Optional<RanBefore> of(List<PastResult> results) {
    List<PastResult> some =
        results.stream().filter(one -> one.passed() || one.failedByItself()).limit(RUNS).toList();
    long failed = some.stream().filter(one -> one.failed() || one.stumbled()).count();
    if (failed < 3 || some.size() - failed < 3) {
      return Optional.empty();
    }
    if (isInPlace(some) && before(some, 1).values().stream().distinct().count() < 2) {
      // The order does not change, and tells nothing.
      return Optional.empty();
    }
    Map<Long, Set<Long>> before = before(some, BEFORE);
    List<OrderClue.Turn> turns = new ArrayList<>();
    for (PastResult one : some) {
      turns.add(
          new OrderClue.Turn(
              one.failed() || one.stumbled(), before.getOrDefault(one.run().id(), Set.of())));
    }
    return OrderClue.of(turns).flatMap(this::named);
  }

  /** Whether it stands at the same place in all of them, but for a few tests that came or went. */
  private static boolean isInPlace(List<PastResult> some) {
    IntSummaryStatistics at =
        some.stream().mapToInt(one -> Packed.place(one.result()) & IN_PART).summaryStatistics();
    return at.getMax() - at.getMin() <= MOVED;
  }

  /**
   * @param most so many that ran just before it
   */
  private Map<Long, Set<Long>> before(List<PastResult> some, int most) {
    Map<Long, Set<Long>> before = new HashMap<>();
    dsl.fetch(
            "select n.run_id, x.test_id from unnest(?::int[], ?::int[]) as n (run_id, place)"
                + " cross join lateral (select r.test_id from result_row r"
                + " where r.run_id = n.run_id and r.place < n.place"
                + " and r.place >= (n.place >> 20) << 20 and (r.state >> 6) & 3 = 0"
                + " and (r.state & 256) = 0 order by r.place desc limit ?) x",
            some.stream().map(one -> (int) one.run().id()).toArray(Integer[]::new),
            some.stream().map(one -> Packed.place(one.result())).toArray(Integer[]::new),
            most)
        .forEach(
            row ->
                before
                    .computeIfAbsent(row.get(0, Long.class), k -> new HashSet<>())
                    .add(row.get(1, Long.class)));
    return before;
  }

  private Optional<RanBefore> named(OrderClue clue) {
    Record row =
        dsl.select(KeptTests.FIELDS)
            .from(TEST)
            .where(TEST.PROJECT_ID.eq(projectId), TEST.ID.eq(clue.other()))
            .fetchOne();
    return row == null
        ? Optional.empty()
        : Optional.of(new RanBefore(new KeptTests(dsl, projectId, List.of(row)).of(row), clue));
  }
}
