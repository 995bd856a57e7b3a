package org.vinecellar.store.quarantine;

import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.quarantine.Quarantine;
import org.vinecellar.core.quarantine.QuarantineStore;
import org.vinecellar.core.quarantine.Terms;
import org.vinecellar.core.quarantine.runners.NamedTest;
import org.vinecellar.store.sql.Ids;
import org.vinecellar.store.sql.Sql;

/** Quarantines in PostgreSQL. Thread-safe. */
public final class PgQuarantineStore implements QuarantineStore {
  private final Sql sql;

  /** On that database. */
  public PgQuarantineStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public List<Quarantine> open(int projectId, @Nullable String stream, int after, int limit) {
    return sql.with(dsl -> new QuarantineQueries(dsl, projectId).open(stream, after, limit));
  }

  @Override
  public List<Quarantine> ended(int projectId, @Nullable String stream, int after, int limit) {
    return sql.with(dsl -> new QuarantineQueries(dsl, projectId).ended(stream, after, limit));
  }

  @Override
  public Optional<Quarantine> one(int projectId, long id) {
    return sql.with(dsl -> Optional.ofNullable(new QuarantineQueries(dsl, projectId).one(id)));
  }

  @Override
  public List<Quarantine> of(int projectId, long test) {
    return sql.with(dsl -> new QuarantineQueries(dsl, projectId).of(test));
  }

  @Override
  public Added add(
      int projectId, Collection<Long> tests, @Nullable String stream, Terms terms, Hand hand) {
    LocalDate today = today(hand);
    Terms checked = terms.checked(today);
    return sql.transaction(
        dsl -> {
          Long id = stream == null ? null : streamId(dsl, projectId, stream);
          Set<Long> known = known(dsl, projectId, id, tests);
          if (known.isEmpty()) {
            throw new CellarException(
                ProblemCode.NOT_FOUND,
                stream == null
                    ? "there is no such test in this project"
                    : "no run of “" + stream + "” has had such a test");
          }
          over(dsl, projectId, known, today, hand);
          Set<Long> fresh = new HashSet<>(known);
          fresh.removeAll(already(dsl, projectId, id, known));
          int added = insert(dsl, projectId, fresh, id, checked, hand);
          return new Added(added, known.size() - added, new HashSet<>(tests).size() - known.size());
        });
  }

  private static long streamId(DSLContext dsl, int projectId, String stream) {
    Record row =
        dsl.fetchOne(
            "select id from stream where project_id = ? and name = ? and deleted_at is null"
                + " for key share",
            projectId,
            stream);
    if (row == null) {
      throw new CellarException(ProblemCode.NOT_FOUND, "there is no stream “" + stream + "”");
    }
    return row.get(0, Long.class);
  }

  private static Set<Long> known(
      DSLContext dsl, int projectId, @Nullable Long stream, Collection<Long> tests) {
    return new HashSet<>(
        dsl.fetch(
                "select t.id from test t where t.project_id = ? and t.id = any(?)"
                    + " and (?::int is null or exists (select 1 from test_in_stream x"
                    + " where x.project_id = t.project_id and x.stream_id = ? and x.test_id = t.id))",
                projectId,
                Ids.of(tests),
                stream,
                stream)
            .getValues(0, Long.class));
  }

  /** What is over ends for good when it begins anew: between the two, failures counted. */
  private static void over(
      DSLContext dsl, int projectId, Set<Long> tests, LocalDate today, Hand hand) {
    dsl.execute(
        "update quarantine set ended_at = ((until_on + 1)::timestamp at time zone 'UTC'),"
            + " ended_by = ?, version = version + 1 where project_id = ? and test_id = any(?)"
            + " and ended_at is null and until_on < ?::date",
        hand.name(),
        projectId,
        Ids.of(tests),
        today);
  }

  /** Those that one reaches which holds wherever the new one would. */
  private static Set<Long> already(
      DSLContext dsl, int projectId, @Nullable Long stream, Set<Long> tests) {
    return new HashSet<>(
        dsl.fetch(
                Reach.with("q.ended_at is null and (q.stream_id is null or q.stream_id = ?::int)")
                    + "select distinct test_id from reach where test_id = any(?)"
                    + " and (stream_id is null or stream_id = ?::int)",
                projectId,
                stream,
                projectId,
                Ids.of(tests),
                stream)
            .getValues(0, Long.class));
  }

  /** Always in the same order: who puts some of the same there at once waits, and for no circle. */
  private static int insert(
      DSLContext dsl,
      int projectId,
      Set<Long> tests,
      @Nullable Long stream,
      Terms terms,
      Hand hand) {
    return dsl.execute(
        "insert into quarantine (project_id, test_id, stream_id, version, owner, reason, ticket,"
            + " since_at, until_on, made_by, changed_at, changed_by)"
            + " select ?, x.test, ?::int, 1, ?, ?, ?::text, ?::timestamptz, ?::date, ?,"
            + " ?::timestamptz, ? from unnest(?) as x (test) order by x.test on conflict do nothing",
        projectId,
        stream,
        terms.owner(),
        terms.reason(),
        terms.ticket(),
        Sql.utc(hand.now()),
        terms.until(),
        hand.name(),
        Sql.utc(hand.now()),
        hand.name(),
        Ids.of(tests));
  }

  @Override
  public void change(int projectId, long id, int version, Terms terms, Hand hand) {
    Terms checked = terms.checked(today(hand));
    sql.transaction(
        dsl -> {
          Quarantine before = found(dsl, projectId, id);
          if (before.terms().until().isBefore(today(hand))) {
            throw new CellarException(
                ProblemCode.INVALID_VALUE,
                "it was over on "
                    + before.terms().until()
                    + ", and failures have counted since; put the test there anew");
          }
          int changed =
              dsl.execute(
                  "update quarantine set owner = ?, reason = ?, ticket = ?::text, until_on = ?::date,"
                      + " version = version + 1, changed_at = ?::timestamptz, changed_by = ?"
                      + " where project_id = ? and id = ? and version = ? and ended_at is null",
                  checked.owner(),
                  checked.reason(),
                  checked.ticket(),
                  checked.until(),
                  Sql.utc(hand.now()),
                  hand.name(),
                  projectId,
                  id,
                  version);
          if (changed == 0) {
            throw new CellarException(
                ProblemCode.EDITED_MEANWHILE,
                "the quarantine is version " + before.version() + " by now, not " + version);
          }
          return true;
        });
  }

  @Override
  public void end(int projectId, long id, Hand hand) {
    sql.transaction(
        dsl -> {
          int changed =
              dsl.execute(
                  // What is over ended when its last day did.
                  "update quarantine set ended_at = least(?::timestamptz,"
                      + " (until_on + 1)::timestamp at time zone 'UTC'), ended_by = ?,"
                      + " version = version + 1, changed_at = ?::timestamptz, changed_by = ?"
                      + " where project_id = ? and id = ? and ended_at is null",
                  Sql.utc(hand.now()),
                  hand.name(),
                  Sql.utc(hand.now()),
                  hand.name(),
                  projectId,
                  id);
          if (changed == 0) {
            throw notFound(id);
          }
          return true;
        });
  }

  private static Quarantine found(DSLContext dsl, int projectId, long id) {
    Quarantine one = new QuarantineQueries(dsl, projectId).one(id);
    if (one == null || one.ended() != null) {
      throw notFound(id);
    }
    return one;
  }

  private static CellarException notFound(long id) {
    return new CellarException(
        ProblemCode.NOT_FOUND, "there is no quarantine " + id + " that nobody has ended");
  }

  @Override
  public InRun in(int projectId, long run) {
    return sql.with(
        dsl -> {
          Record row =
              dsl.fetchSingle(
                  "select count(*)::int, count(*) filter (where exists (select 1 from run_change c"
                      + " where c.run_id = r.run_id and c.test_id = r.test_id and c.change = 1))::int,"
                      + " (array_agg(distinct r.test_id))[1:?]"
                      + " from result r where r.run_id = ? and r.outcome in (1, 2)"
                      + " and not r.superseded and r.test_id = any(array("
                      + Reach.testsOfRun()
                      + "))",
                  MOST_AT_ONCE,
                  run,
                  projectId,
                  projectId,
                  projectId,
                  run);
          Long[] tests = row.get(2, Long[].class);
          return new InRun(
              row.get(0, Integer.class),
              row.get(1, Integer.class),
              tests == null ? List.of() : List.of(tests));
        });
  }

  @Override
  public List<NamedTest> names(
      int projectId, @Nullable String stream, LocalDate today, boolean latest) {
    return sql.with(dsl -> new QuarantineQueries(dsl, projectId).names(stream, today, latest));
  }

  private static LocalDate today(Hand hand) {
    return LocalDate.ofInstant(hand.now(), ZoneOffset.UTC);
  }
}
