package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;

import io.agroal.api.AgroalDataSource;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.runs.FindQuery;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.RunSummary;

/**
 * A large run that came after PostgreSQL last counted: it believes that there is no such run, and
 * would gladly go through all of it for each of its rows.
 */
class UnseenRunTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final String STREAM = "fares/nightly";
  private static final int TESTS = 8_000;

  /** So many rows may be read for each result, of all tables, by whatever is done once. */
  private static final int ROWS = 200;

  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private final TestUploads uploads = TestUploads.inNewProject(stores, NOW);
  private final Map<String, Long> read = new TreeMap<>();

  private static String xml(int first, int tests, int night) {
    StringBuilder xml = new StringBuilder("<testsuite name='quay.Bell'>");
    for (int i = first; i < first + tests; i++) {
      xml.append("<testcase classname='quay.S" + i % 40 + "' name='t" + i + "' time='0.1'>");
      switch ((i + night) % 4) {
        case 0 -> xml.append("<failure message='expected " + i % 300 + " but was none'/>");
        case 1 -> xml.append("<flakyFailure message='too late " + i % 50 + "'/>");
        default -> {}
      }
      xml.append("</testcase>");
    }
    return xml.append("</testsuite>").toString();
  }

  private void send(int night, String run, String part, String xml) {
    var unused =
        uploads.sendAt(
            NOW.minusSeconds(3600L * (20 - night)),
            STREAM,
            run,
            UploadRequest.PartKey.named(part),
            new Origin("c0ffee" + night, null, null),
            Map.of("team", "bell"),
            xml);
  }

  /** Rows that all tables were asked for so far; a connection tells its own when it ends. */
  private static long rows() {
    AgroalDataSource pool = (AgroalDataSource) STORE.database();
    String url =
        pool.getConfiguration()
            .connectionPoolConfiguration()
            .connectionFactoryConfiguration()
            .jdbcUrl();
    try (Connection connection =
            DriverManager.getConnection(
                url, System.getenv("VINE_TEST_DB_USER"), System.getenv("VINE_TEST_DB_PASSWORD"));
        Statement statement = connection.createStatement()) {
      while (number(
              statement,
              "select count(*) from pg_stat_activity where datname = current_database()"
                  + " and backend_type = 'client backend' and pid <> pg_backend_pid()")
          > 0) {
        pool.flush(AgroalDataSource.FlushMode.IDLE);
        Thread.sleep(5);
      }
      return number(
          statement,
          "select sum(coalesce(seq_tup_read, 0) + coalesce(idx_tup_fetch, 0))"
              + " from pg_stat_user_tables");
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  private static long number(Statement statement, String sql) throws SQLException {
    try (ResultSet row = statement.executeQuery(sql)) {
      row.next();
      return row.getLong(1);
    }
  }

  private void step(String name, Runnable work) {
    long before = rows();
    work.run();
    read.put(name, (rows() - before) / TESTS);
  }

  @Test
  void nothingGoesThroughTheWholeRunForEachOfItsRows() {
    for (String table :
        STORE.texts(
            "select oid::regclass::text from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace")) {
      STORE.execute("alter table " + table + " set (autovacuum_enabled = off)");
    }
    send(1, "one", "a", xml(0, 200, 1));
    TestDatabase.work(stores);
    STORE.execute("analyze");
    step("upload", () -> send(2, "two", "a", xml(0, TESTS, 2)));
    step("work after it", () -> TestDatabase.work(stores));
    step("another part", () -> send(2, "two", "b", xml(TESTS, TESTS, 3)));
    step("a part tried again", () -> send(2, "two", "a", xml(0, TESTS, 4)));
    step("close", () -> TestDatabase.work(stores));
    STORE.execute("analyze");
    step("next run", () -> send(3, "three", "a", xml(0, TESTS, 3)));
    step("work after the next", () -> TestDatabase.work(stores));

    int project = uploads.project();
    RunSummary run = stores.runs().run(project, STREAM, 3).orElseThrow();
    Criterion failed = Resolver.read("outcome eq \"failed\"", Thing.RESULT, NOW);
    Criterion caused = Resolver.read("group.failures gt 3", Thing.RESULT, NOW);
    Period period = Period.ofDays(30, NOW);
    for (Criterion filter : List.of(Criterion.EVERYTHING, failed, caused)) {
      step(
          "results " + filter,
          () ->
              stores
                  .runs()
                  .results(
                      project, run.id(), new ResultQuery(filter, null, Optional.empty(), 100)));
      step("suites " + filter, () -> stores.runs().suites(project, run.id(), null, filter));
      step(
          "found " + filter,
          () -> stores.runs().find(project, new FindQuery(filter, Optional.empty(), 100)));
      step("count " + filter, () -> stores.runs().count(project, Thing.RESULT, filter));
    }
    long test = STORE.testsOf(STREAM).get(0);
    step("gone", () -> stores.runs().gone(project, run.id(), Criterion.EVERYTHING, 100));
    step("compare", () -> stores.runs().compare(project, run.id(), run.id() - 1, 100));
    step("history", () -> stores.trust().history(project, test, STREAM, null, 100));
    step("moments", () -> stores.trust().moments(project, test, STREAM, NOW, 100));
    step("test", () -> stores.trust().test(project, test, LocalDate.of(2026, 11, 20)));
    step("quarantined", () -> stores.quarantine().in(project, run.id()));
    step(
        "report of tests",
        () -> stores.reportFacts().tests(project, Criterion.EVERYTHING, period, 10_000));
    step("report of people", () -> stores.reportFacts().people(project, period, 100));
    step(
        "report of types",
        () -> stores.reportFacts().untyped(project, Criterion.EVERYTHING, period));
    step(
        "groups of a board",
        () -> stores.failureFacts().groups(project, Criterion.EVERYTHING, period, 100));
    step(
        "time until fixed",
        () -> stores.failureFacts().mended(project, Criterion.EVERYTHING, period, null));
    step(
        "time until explained",
        () -> stores.failureFacts().explaining(project, Criterion.EVERYTHING, period, null));
    step("parts", () -> stores.ranks().partsNow(project, STREAM));
    assertThat(read)
        .allSatisfy(
            (name, rows) -> assertThat(rows).as(name + " of " + read).isLessThanOrEqualTo(ROWS));
  }
}
