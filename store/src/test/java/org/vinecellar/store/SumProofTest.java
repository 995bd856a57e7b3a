package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.runs.FindQuery;
import org.vinecellar.core.runs.FoundPage;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.work.SumProof;

/** What is kept summed up is set against the results, and put right where it differs. */
class SumProofTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");

  @RegisterExtension private static final TestStore STORE = new TestStore();
  private static final Random RANDOM = new Random(16);

  /** Twelve of two parts, and one in which nothing failed. */
  private static final int RUNS = 13;

  /** All that is proved, as text. */
  private static final List<String> KEPT =
      List.of(
          "select concat_ws(' ', id, passed, failed, errored, skipped, not_reached, retried, set_ups,"
              + " duration_us, failing_us, again_us, explained, new_failing, failing_as_before, fixed, added, gone, renamed) from run"
              + " order by id",
          "select concat_ws(' ', run_id, test_id, change) from run_change order by run_id, test_id",
          "select concat_ws(' ', run_id, part_no, passed, failed, errored, duration_us) from part"
              + " order by run_id, part_no",
          "select concat_ws(' ', run_id, suite_id, passed, failed, errored, skipped) from run_suite"
              + " order by run_id, suite_id",
          "select concat_ws(' ', run_id, place, group_id, test_id, outcome, decision_id) from failure"
              + " order by run_id, place",
          "select concat_ws(' ', group_id, run_id, results, open) from group_run"
              + " order by group_id, run_id",
          "select concat_ws(' ', run_id, group_id, category_id, results) from group_cause"
              + " order by run_id, group_id, category_id",
          "select concat_ws(' ', run_id, category_id, results) from run_cause where results <> 0"
              + " order by run_id, category_id",
          "select concat_ws(' ', run_id, tests) from run_failing order by run_id",
          "select concat_ws(' ', id, results, open, runs, tests, streams) from failure_group"
              + " order by id");

  @BeforeAll
  static void runs() {
    Stores stores = STORE.stores();
    TestUploads uploads = TestUploads.inNewProject(stores, NOW);
    for (int run = 0; run < RUNS - 1; run++) {
      for (int part = 0; part < 2; part++) {
        uploads.sendAt(
            NOW.minus(run, ChronoUnit.DAYS),
            run % 2 == 0 ? "day" : "night",
            "run-" + run,
            UploadRequest.PartKey.named("p" + part),
            new Origin("c" + run, "main", null),
            Map.of(),
            TestUploads.suite(
                "S" + part, "a:F b:P c:" + "FE".charAt(run % 2) + " d:" + "PF".charAt(run % 2)));
      }
    }
    var unusedReceipt = uploads.send("calm", null, TestUploads.suite("S", "a:P b:P"));
    TestDatabase.work(stores);
    Criterion failing = Resolver.read("outcome eq \"failed\"", Thing.RESULT, NOW);
    List<FoundPage.Found> all =
        stores
            .runs()
            .find(uploads.project(), new FindQuery(failing, Optional.empty(), 100))
            .results();
    for (int i = 0; i < 2; i++) {
      FoundPage.Found one = all.get(RANDOM.nextInt(all.size()));
      TriageStore.Decided unused =
          stores
              .triage()
              .decide(
                  uploads.project(),
                  one.run().id(),
                  one.result().id(),
                  new TriageStore.Verdict(i % 2 == 0 ? "Product fault" : "Test fault", null, false),
                  new EditStore.Hand("lead", NOW));
    }
    TestDatabase.work(stores);
    // What is still open is not proved.
    STORE.execute("update run set is_open = false");
    assertThat(
            stores
                .runs()
                .runs(
                    uploads.project(),
                    new RunQuery(null, Criterion.EVERYTHING, Optional.empty(), 50)))
        .hasSize(RUNS);
    assertThat(STORE.number("select count(*) from group_cause")).isGreaterThan(5);
  }

  private static List<List<String>> kept() {
    List<List<String>> kept = new ArrayList<>();
    KEPT.forEach(sql -> kept.add(STORE.texts(sql)));
    return kept;
  }

  private static int proved() {
    SumProof proof = STORE.stores().sumProof();
    STORE.execute("update run set proven_at = '2000-01-01'");
    int runs = 0;
    while (proof.proveOne(NOW)) {
      runs++;
    }
    TestDatabase.work(STORE.stores());
    return runs;
  }

  @Test
  void whatIsWrongIsFoundAndPutRight() {
    SumProof proof = STORE.stores().sumProof();
    List<List<String>> right = kept();
    assertThat(proved()).isEqualTo(RUNS);
    assertThat(kept()).isEqualTo(right);
    assertThat(proof.repairs()).isEqualTo(new SumProof.Repairs(0, null, null));

    List<String> faults =
        List.of(
            "update run set passed = passed + 1 where id = %s",
            "update run set failed = 0, errored = errored + failed where id = %s",
            "update run set duration_us = duration_us + 7 where id = %s",
            "update run set failing_us = failing_us + 1 where id = %s",
            "update run set again_us = again_us + 5 where id = %s",
            "update run set new_failing = new_failing + 1 where id = %s",
            "update run_change set change = 5 where run_id = %s",
            "delete from run_change where run_id = %s",
            "update failure set outcome = 3 - outcome where run_id = %s",
            "update group_run set results = results + 2 where run_id = %s",
            "update group_run set open = 0 where run_id = %s and open > 0",
            "delete from group_run where run_id = %s",
            "delete from group_cause where run_id = %s",
            "update group_cause set results = 99 where run_id = %s",
            "update group_cause set category_id = category_id + 1 where run_id = %s",
            "delete from run_cause where run_id = %s",
            "update run_cause set results = results - 1 where run_id = %s",
            "insert into run_cause select run_id, category_id + 900, 2 from run_cause where run_id = %s",
            "delete from run_failing where run_id = %s",
            "update run_failing set tests = tests || '\\x04' where run_id = %s",
            "update run_failing set tests = '' where run_id = %s");
    int repaired = 0;
    for (String fault : faults) {
      String run =
          STORE
              .texts(
                  "select run_id::text from group_cause where run_id in (select run_id from group_run"
                      + " where open > 0) order by random() limit 1")
              .get(0);
      STORE.execute(String.format(fault, run));
      assertThat(kept()).as(fault).isNotEqualTo(right);
      assertThat(proved()).isEqualTo(RUNS);
      assertThat(kept()).as(fault).isEqualTo(right);
      repaired++;
      assertThat(proof.repairs().times()).as(fault).isEqualTo(repaired);
      assertThat(proof.repairs().said()).contains("run " + run);
    }
    // Where nothing failed, nothing is to stand.
    STORE.execute("insert into run_failing select id, '\\x04' from run where failed + errored = 0");
    assertThat(proved()).isEqualTo(RUNS);
    assertThat(kept()).isEqualTo(right);
    assertThat(proof.repairs().times()).isEqualTo(++repaired);
    assertThat(proved()).isEqualTo(RUNS);
    assertThat(proof.repairs().times()).isEqualTo(repaired);
  }
}
