package org.vinecellar.store.triage;

import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.triage.decisions.FailureLine;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.triage.desk.Suggestion;
import org.vinecellar.store.sql.Sql;

/** Groups and decisions in PostgreSQL. Thread-safe. */
public final class PgTriageStore implements TriageStore {
  private final Sql sql;

  /** On that database. */
  public PgTriageStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public Optional<ResultId> failing(int projectId, long runId, String test) {
    return sql.with(dsl -> new FailureQueries(dsl, projectId).find(runId, test));
  }

  @Override
  public Decided decide(int projectId, long runId, ResultId result, Verdict verdict, Hand hand) {
    return sql.transaction(
        dsl -> new Decisions(dsl, projectId, hand).atResult(runId, result, verdict));
  }

  @Override
  public void undo(int projectId, long decisionId, Hand hand) {
    if (!sql.transaction(dsl -> new Decisions(dsl, projectId, hand).undo(decisionId))) {
      throw new CellarException(
          ProblemCode.NOT_FOUND,
          "there is no decision " + decisionId + ", or it was taken back before");
    }
  }

  @Override
  public GroupsInRun groups(int projectId, long runId, int limit) {
    return sql.with(dsl -> GroupInRunQueries.of(dsl, projectId, runId, limit));
  }

  @Override
  public List<FailureLine> failures(int projectId, Wanted wanted) {
    return sql.with(dsl -> new FailureQueries(dsl, projectId).lines(wanted));
  }

  @Override
  public Map<Long, String> suggested(int projectId, Collection<Long> groups) {
    return sql.with(
        dsl -> {
          Map<Long, String> suggested = new HashMap<>();
          for (long group : groups) {
            Suggestion.best(new SimilarGroups(dsl, projectId, group).all())
                .map(best -> best.said())
                .ifPresent(said -> suggested.put(group, said.category()));
          }
          return suggested;
        });
  }
}
