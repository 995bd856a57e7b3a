package org.vinecellar.store.triage;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.triage.decisions.TriageStore.Decided;
import org.vinecellar.core.triage.desk.DeskStore;
import org.vinecellar.core.triage.desk.GroupDetail;
import org.vinecellar.core.triage.desk.GroupLine;
import org.vinecellar.store.filters.Looks;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.triage.rows.Regroupings;

/** Failure groups over all runs in PostgreSQL. Thread-safe. */
public final class PgDeskStore implements DeskStore {
  private final Sql sql;
  private final Looks looks;

  /**
   * @param looks for what filters ask
   */
  public PgDeskStore(Sql sql, Looks looks) {
    this.sql = sql;
    this.looks = looks;
  }

  @Override
  public List<GroupLine> groups(int projectId, Question question) {
    return looks.wide(question.filter(), dsl -> new DeskQueries(dsl, projectId).lines(question));
  }

  @Override
  public int count(int projectId, Question question) {
    return looks.wide(
        question.filter(), dsl -> new DeskQueries(dsl, projectId).count(question, null));
  }

  @Override
  public Sums sums(int projectId, @Nullable Instant since, String who) {
    return sql.with(dsl -> new DeskQueries(dsl, projectId).sums(since, who));
  }

  @Override
  public Optional<GroupDetail> group(int projectId, long group) {
    return sql.transaction(
        dsl -> {
          // Each of its statements goes along an index for any group; planned anew for each, they
          // would take a quarter longer.
          dsl.execute("set local plan_cache_mode = force_generic_plan");
          return new DeskQueries(dsl, projectId)
              .line(Regroupings.of(dsl, projectId).of(group))
              .map(line -> new GroupQueries(dsl, projectId, line.id()).detail(line));
        });
  }

  @Override
  public Decided decide(int projectId, long group, Verdict verdict, Hand hand) {
    return sql.transaction(dsl -> new Decisions(dsl, projectId, hand).ofGroup(group, verdict));
  }

  @Override
  public Decided accept(
      int projectId, long group, long decision, @Nullable Instant until, Hand hand) {
    return sql.transaction(
        dsl -> new Decisions(dsl, projectId, hand).asLike(group, decision, until));
  }

  @Override
  public void mended(int projectId, long group, Instant at, Hand hand) {
    sql.transaction(
        dsl -> {
          new Decisions(dsl, projectId, hand).end(group, at);
          return true;
        });
  }

  @Override
  public void join(int projectId, long into, List<Long> groups, Hand hand) {
    sql.transaction(
        dsl -> {
          Set<Long> joined = new Regrouping(dsl, projectId, hand).join(into, groups);
          new Decisions(dsl, projectId, hand).ofJoined(into, joined);
          return true;
        });
  }

  @Override
  public long part(int projectId, long group, List<Long> tests, Hand hand) {
    return sql.transaction(dsl -> new Regrouping(dsl, projectId, hand).part(group, tests));
  }

  @Override
  public void asFound(int projectId, long group, Hand hand) {
    long unused = sql.transaction(dsl -> new Regrouping(dsl, projectId, hand).asFound(group));
  }

  /** Work: brings the failures in a group to where people said that they belong. */
  public static void regroup(DSLContext dsl, int projectId, long group, Instant now) {
    Regrouping.all(dsl, projectId, group, now);
  }

  @Override
  public void assign(int projectId, long group, @Nullable String to, Hand hand) {
    sql.transaction(
        dsl -> {
          new Decisions(dsl, projectId, hand).assign(group, to);
          return true;
        });
  }
}
