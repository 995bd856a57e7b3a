package org.vinecellar.store.trust;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.trust.TrustStore;
import org.vinecellar.core.trust.history.Moment;
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
  public List<InStream> taken(int projectId, Question question) {
    return sql.with(dsl -> new TrustQueries(dsl, projectId).taken(question));
  }

  @Override
  public Optional<TestDetail> test(int projectId, long test, LocalDate today) {
    return sql.with(dsl -> new TestQueries(dsl, projectId).detail(test, today));
  }

  @Override
  public List<PastResult> history(
      int projectId, long test, String stream, @Nullable String branch, int limit) {
    return sql.with(dsl -> new PastQueries(dsl, projectId).of(test, stream, branch, limit));
  }

  @Override
  public Optional<RanBefore> ranBefore(int projectId, List<PastResult> results) {
    return sql.with(dsl -> new OrderQueries(dsl, projectId).of(results));
  }

  @Override
  public List<Moment> moments(int projectId, long test, String stream, Instant now, int limit) {
    return sql.with(dsl -> new MomentQueries(dsl, projectId).of((int) test, stream, now, limit));
  }

  @Override
  public void say(int projectId, String stream, long old, long now, boolean joined, Hand hand) {
    sql.transaction(
        dsl -> {
          new Joining(dsl, projectId, hand).say(stream, old, now, joined);
          return true;
        });
  }

  @Override
  public List<Renamed> renames(int projectId, String stream) {
    return sql.with(dsl -> new RenameQueries(dsl, projectId).of(stream));
  }
}
