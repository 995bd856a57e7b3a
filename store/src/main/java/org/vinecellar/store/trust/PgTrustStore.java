package org.vinecellar.store.trust;

import java.util.List;
import org.vinecellar.core.trust.TrustStore;
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
  public List<Renamed> renames(int projectId, String stream) {
    return sql.with(dsl -> new RenameQueries(dsl, projectId).of(stream));
  }
}
