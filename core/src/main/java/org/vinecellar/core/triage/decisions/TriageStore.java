package org.vinecellar.core.triage.decisions;

import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.results.ResultId;

/** Keeps groups of failures and what was decided of them. Everything is of one project. */
public interface TriageStore {
  /**
   * What somebody decides at a result.
   *
   * @param category by its name
   * @param single whether it stands for that result alone; else for its group, from its run on
   */
  record Verdict(String category, @Nullable String comment, boolean single) {}

  /**
   * What became of it.
   *
   * @param id of the decision
   * @param carried results of the same run that it explains beside that one
   * @param disputed whether another explanation of the group stands that says something else, so
   *     that neither is carried any more
   */
  record Decided(long id, long group, int carried, boolean disputed) {}

  /**
   * The failing result of a run that is called so.
   *
   * @param test as in {@link FailureLine#test}
   * @return the first in the order of the files, of several; empty for none
   */
  Optional<ResultId> failing(int projectId, long runId, String test);

  /**
   * Explains a result, and with it the failures that share its cause.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND} when the run has no such
   *     failing result, {@code INVALID_VALUE} when there is no such category
   */
  Decided decide(int projectId, long runId, ResultId result, Verdict verdict, Hand hand);

  /**
   * Takes a decision back, wherever it was carried.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND} when there is none, or it
   *     was taken back before
   */
  void undo(int projectId, long decisionId, Hand hand);

  /**
   * The failure groups of a run.
   *
   * @param lines those with unexplained results first, then by how many they have
   * @param total how many there are, should they be more than the lines
   * @param results failing ones that are grouped
   * @param open those of them that nobody explained
   * @param notCompared results that were grouped by their keys alone, since the run says too many
   *     different things
   * @param outage when one cause fails most of the run; null when none does
   */
  record GroupsInRun(
      List<GroupInRun> lines,
      int total,
      int results,
      int open,
      int notCompared,
      @Nullable Outage outage) {}

  /**
   * The failure groups of a run.
   *
   * @param limit of lines
   */
  GroupsInRun groups(int projectId, long runId, int limit);

  /**
   * Which failing results of a stream are wanted.
   *
   * @param from the first run
   * @param to the last run
   * @param after the run and result of the last one that was seen; null for the beginning
   */
  record Wanted(String stream, int from, int to, @Nullable After after, int limit) {}

  /** A failing result by the number of its run. */
  record After(int run, ResultId result) {}

  /** The failing results of a stream, in the order of its runs' numbers and then of the files. */
  List<FailureLine> failures(int projectId, Wanted wanted);

  /**
   * Which category is suggested of each of some groups, by its name; those of which none is are not
   * among them.
   */
  Map<Long, String> suggested(int projectId, Collection<Long> groups);
}
