package org.vinecellar.store.trust;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.TrustStore;
import org.vinecellar.core.trust.flaky.Verdict;
import org.vinecellar.core.trust.history.PastResult;
import org.vinecellar.store.sql.Sql;

/** What is known of tests, in PostgreSQL. Thread-safe. */
public final class PgTrustStore implements TrustStore {
  private final Sql sql;

  /** On that database. */
  public PgTrustStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public List<TestLine> tests(int projectId, String stream, long after, int limit) {
    return sql.with(dsl -> new TrustQueries(dsl, projectId).tests(stream, after, limit));
  }

  @Override
  public List<TestLine> named(int projectId, String stream, String test) {
    return sql.with(dsl -> new TrustQueries(dsl, projectId).named(stream, test));
  }

  @Override
  public List<InStream> taken(
      int projectId, Verdict verdict, @Nullable String stream, int after, int limit) {
    return sql.with(dsl -> new TrustQueries(dsl, projectId).taken(verdict, stream, after, limit));
  }

  @Override
  public Optional<TestDetail> test(int projectId, long test) {
    return sql.with(dsl -> new TestQueries(dsl, projectId).detail(test));
  }

  @Override
  public List<PastResult> history(
      int projectId, long test, String stream, @Nullable String branch, int limit) {
    return sql.with(dsl -> new PastQueries(dsl, projectId).of(test, stream, branch, limit));
  }

  @Override
  public List<Renamed> renames(int projectId, String stream) {
    return sql.with(dsl -> new RenameQueries(dsl, projectId).of(stream));
  }
}
