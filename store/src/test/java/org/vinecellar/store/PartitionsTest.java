package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;

import io.agroal.api.AgroalDataSource;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.runs.ResultDetail;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.RunSummary;

/** Tables that are cut by runs: made when they are wanted, by many at once, and read as one. */
class PartitionsTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final String STREAM = "fares/nightly";
  private static final int SENDERS = 10;

  private final ExecutorService threads = Executors.newCachedThreadPool();
  private final AgroalDataSource database = TestDatabase.create();

  @AfterEach
  void stop() {
    threads.shutdown();
    database.close();
  }

  private void sql(String statement) throws SQLException {
    try (Connection connection = database.getConnection();
        Statement now = connection.createStatement()) {
      now.execute(statement);
    }
  }

  private List<String> tables() throws SQLException {
    List<String> tables = new ArrayList<>();
    try (Connection connection = database.getConnection();
        Statement now = connection.createStatement();
        ResultSet rows =
            now.executeQuery(
                "select tableoid::regclass || ' ' || count(*) from result_row group by tableoid"
                    + " order by 1")) {
      while (rows.next()) {
        tables.add(rows.getString(1));
      }
    }
    return tables;
  }

  @Test
  void theFirstUploadsComeAllAtOnceToSeveralInstances() throws Exception {
    TestUploads first = TestUploads.inNewProject(TestDatabase.stores(database, threads), NOW);
    List<Callable<Receipt>> senders = new ArrayList<>();
    for (int i = 0; i < SENDERS; i++) {
      Stores instance = TestDatabase.stores(database, threads);
      TestUploads uploads = first.through(instance, NOW);
      String stream = "s" + i;
      senders.add(() -> uploads.send(stream, null, TestUploads.suite("S", "a:P b:F")));
    }
    for (Future<Receipt> sent : threads.invokeAll(senders)) {
      assertThat(sent.get().run().tests()).isEqualTo(2);
    }
    assertThat(tables()).containsExactly("result_row_0 " + 2 * SENDERS);
  }

  /** Of few runs the database would know all, and believe that there is no other. */
  @Test
  void runsAreCountedWhereThereAreEnough() throws Exception {
    Stores stores = TestDatabase.stores(database, threads);
    TestUploads uploads = TestUploads.inNewProject(stores, NOW);
    String counted =
        "select string_agg(attrelid::regclass || ' ' || attstattarget, ', ' order by attrelid) from pg_attribute"
            + " where attname = 'run_id' and attrelid::regclass::text ~ '^result_row_[0-9]$'";
    sql("select setval('run_id_seq', 254)");
    uploads.send(STREAM, null, TestUploads.suite("S", "a:P b:P"));
    assertThat(stores.ingest().countRuns()).isZero();
    assertThat(text(counted)).isEqualTo("result_row_0 0");
    uploads.send(STREAM, null, TestUploads.suite("S", "a:P b:F"));
    assertThat(stores.ingest().countRuns()).isEqualTo(8);
    assertThat(text(counted)).isEqualTo("result_row_0 -1");
    sql("select setval('run_id_seq', 8192)");
    uploads.send(STREAM, null, TestUploads.suite("S", "a:F b:F"));
    assertThat(stores.ingest().countRuns()).isZero();
    assertThat(text(counted)).isEqualTo("result_row_0 -1, result_row_1 0");
  }

  private String text(String query) throws SQLException {
    try (Connection connection = database.getConnection();
        Statement now = connection.createStatement();
        ResultSet row = now.executeQuery(query)) {
      row.next();
      return row.getString(1);
    }
  }

  @Test
  void runsOnBothSidesOfACutAreOneStream() throws Exception {
    Stores stores = TestDatabase.stores(database, threads);
    TestUploads uploads = TestUploads.inNewProject(stores, NOW);
    uploads.send(STREAM, null, TestUploads.suite("S", "a:P b:P"));
    sql("select setval('run_id_seq', 8190)");
    uploads.send(STREAM, null, TestUploads.suite("S", "a:F b:P"));
    uploads.send(STREAM, null, TestUploads.suite("S", "a:F c:P"));
    uploads.send(STREAM, null, TestUploads.suite("S", "a:P c:P"));

    assertThat(tables()).containsExactly("result_row_0 4", "result_row_1 4");
    RunSummary latest = stores.runs().run(uploads.project(), STREAM, 4).orElseThrow();
    assertThat(latest.changes().fixed()).isEqualTo(1);
    assertThat(stores.runs().run(uploads.project(), STREAM, 3).orElseThrow().changes().gone())
        .isEqualTo(1);
    ResultDetail a =
        stores.runs().results(uploads.project(), latest.id(), ResultQuery.first(10)).stream()
            .filter(row -> row.test().name().equals("a"))
            .map(row -> stores.runs().result(uploads.project(), latest, row.id()).orElseThrow())
            .findFirst()
            .orElseThrow();
    assertThat(a.before())
        .extracting(e -> e.run() + " " + e.outcome().word())
        .containsExactly("3 failed", "2 failed", "1 passed");
    assertThat(new Recount(database).books(uploads.project()).differences()).isEmpty();
  }
}
