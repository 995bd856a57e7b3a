package org.vinecellar.store.trust;

import static org.vinecellar.store.generated.Tables.TEST;
import static org.vinecellar.store.generated.Tables.TEST_FACTS;
import static org.vinecellar.store.generated.Tables.TEST_TAG;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.trust.Estimate;
import org.vinecellar.core.trust.TrustStore.InStream;
import org.vinecellar.core.trust.TrustStore.Renamed;
import org.vinecellar.core.trust.TrustStore.TestDetail;
import org.vinecellar.store.quarantine.Reach;
import org.vinecellar.store.results.KeptTests;

/** One test with what is known of it. */
final class TestQueries {
  /** In so many streams at most, those with the latest runs. */
  private static final int STREAMS = 50;

  private final DSLContext dsl;
  private final int projectId;

  TestQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  Optional<TestDetail> detail(long test, LocalDate today) {
    Record row =
        dsl.select(KeptTests.FIELDS)
            .select(TEST_FACTS.SOURCE_FILE, TEST.FACTS)
            .from(TEST)
            .leftJoin(TEST_FACTS)
            .on(TEST_FACTS.TEST_ID.eq(TEST.ID), TEST_FACTS.VERSION.eq(TEST.FACTS))
            .where(TEST.PROJECT_ID.eq(projectId), TEST.ID.eq(test))
            .fetchOne();
    if (row == null) {
      return Optional.empty();
    }
    KeptTest kept = new KeptTests(dsl, projectId, List.of(row)).of(row);
    List<Renamed> all = new RenameQueries(dsl, projectId).around(test);
    Long becomes =
        all.stream()
            .filter(one -> one.joined() && one.old().id() == test)
            .map(one -> (Long) one.now().id())
            .findFirst()
            .orElse(null);
    return Optional.of(
        new TestDetail(
            kept,
            row.get(TEST_FACTS.SOURCE_FILE),
            tags(row),
            earlier(all, test),
            becomes,
            streams(kept, today)));
  }

  /** What led to its name, the latest first. */
  private static List<Renamed> earlier(List<Renamed> all, long test) {
    List<Renamed> names = new ArrayList<>();
    Set<Long> seen = new HashSet<>(Set.of(test));
    List<Long> open = new ArrayList<>(List.of(test));
    while (!open.isEmpty()) {
      long now = open.remove(0);
      for (Renamed one : all) {
        if (one.now().id() == now) {
          names.add(one);
          if (one.joined() && seen.add(one.old().id())) {
            open.add(one.old().id());
          }
        }
      }
    }
    return names;
  }

  private List<String> tags(Record row) {
    return dsl.selectDistinct(TEST_TAG.TAG)
        .from(TEST_TAG)
        .where(
            TEST_TAG.PROJECT_ID.eq(projectId),
            TEST_TAG.TEST_ID.eq(row.get(TEST.ID)),
            TEST_TAG.VERSION.eq(DSL.inline(0)).or(TEST_TAG.VERSION.eq(row.get(TEST.FACTS))))
        .orderBy(TEST_TAG.TAG)
        .fetch(TEST_TAG.TAG);
  }

  private List<InStream> streams(KeptTest test, LocalDate today) {
    TrustQueries queries = new TrustQueries(dsl, projectId);
    Map<String, InStream> known = new HashMap<>();
    queries.of(test.id(), today).forEach(one -> known.put(one.stream(), one));
    List<Reach.Held> held = Reach.held(dsl, projectId, List.of(test.id()), today);
    List<InStream> all = new ArrayList<>();
    for (Record row :
        dsl.fetch(
            "select m.id, m.name, (select max(l.started_at) from run_learned l"
                + " where l.project_id = m.project_id and l.stream_id = m.id) as last"
                + " from test_in_stream s join stream m on m.project_id = s.project_id"
                + " and m.id = s.stream_id where s.project_id = ? and s.test_id = ?"
                + " and m.deleted_at is null order by last desc nulls last, m.name limit ?",
            projectId,
            test.id(),
            STREAMS)) {
      String name = row.get(1, String.class);
      long stream = row.get(0, Long.class);
      Set<Long> only = Set.of(test.id());
      boolean failing = !queries.failing(stream, only).isEmpty();
      InStream one = known.get(name);
      if (one == null) {
        // Of what goes on under another name, that is told.
        int runs = queries.told(stream, only).values().stream().mapToInt(Integer::intValue).sum();
        Estimate told = Estimate.ofPasses(runs).failing(failing);
        LocalDate until = Reach.until(held, test.id(), stream);
        one = new InStream(test, name, told, null, told.cleanRunsLeft(), until);
      } else if (failing) {
        Estimate told = one.estimate().failing(true);
        one = new InStream(test, name, told, one.since(), one.cleanRuns(), one.quarantined());
      }
      all.add(one);
    }
    return all;
  }
}
