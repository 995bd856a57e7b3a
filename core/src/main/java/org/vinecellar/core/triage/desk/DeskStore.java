package org.vinecellar.core.triage.desk;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.triage.decisions.TriageStore.Decided;

/** Keeps failure groups over all runs, and what is done with whole ones. All is of one project. */
public interface DeskStore {
  /**
   * What is asked for.
   *
   * @param since only groups that were seen since; null for all
   * @param filter of groups
   * @param who asks, for what is theirs
   * @param now by which the latest come first
   * @param from how many lines are left out at the beginning
   */
  record Question(
      Show show,
      @Nullable Instant since,
      Criterion filter,
      String who,
      Instant now,
      int from,
      int limit) {
    /** Checks nulls. */
    public Question {
      Objects.requireNonNull(show);
      Objects.requireNonNull(filter);
      Objects.requireNonNull(who);
      Objects.requireNonNull(now);
    }
  }

  /**
   * The groups, the widest and latest first: by their unexplained results, of which half count for
   * each week since they were last seen; then by all of their results.
   */
  List<GroupLine> groups(int projectId, Question question);

  /** How many groups there are, wherever the question begins and ends. */
  int count(int projectId, Question question);

  /**
   * How much there is.
   *
   * @param unsorted groups seen since then with results that nobody explained
   * @param returned those of them that had been explained before
   * @param mine groups that were given to who asks
   * @param older groups with unexplained results that were last seen before then
   * @param open results of these runs that nobody explained
   * @param results failing results of the runs since then
   * @param decisions that stand and explain one of them
   * @param byHand results that somebody explained one by one
   * @param rules that explain one of them
   * @param grouping runs whose failures are not all grouped yet: what they hold is not counted
   */
  record Sums(
      int unsorted,
      int returned,
      int mine,
      int older,
      int open,
      int results,
      int decisions,
      int byHand,
      int rules,
      int grouping) {}

  /**
   * How much there is.
   *
   * @param since which runs count; null for all
   */
  Sums sums(int projectId, @Nullable Instant since, String who);

  /** One group; empty when there is none, or all its runs are gone. */
  Optional<GroupDetail> group(int projectId, long group);

  /**
   * What somebody decides of a whole group.
   *
   * @param category by its name
   * @param until runs that begin then or later are not explained by it; null for no end
   * @param untilClosed whether it ends when the tickets of the group are closed
   */
  record Verdict(
      String category, @Nullable String comment, @Nullable Instant until, boolean untilClosed) {
    /** Checks nulls. */
    public Verdict {
      Objects.requireNonNull(category);
    }

    /** Without an end. */
    public Verdict(String category, @Nullable String comment) {
      this(category, comment, null, false);
    }
  }

  /**
   * Explains all results that a group has, and those to come. What was decided of the group before
   * is replaced by it; not what was decided of one result alone.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND} when there is no such
   *     group, {@code INVALID_VALUE} when there is no such category, or none of its tickets is open
   *     until which it could hold
   */
  Decided decide(int projectId, long group, Verdict verdict, Hand hand);

  /**
   * Explains a group as another one was, by a decision that is suggested or chosen.
   *
   * @param decision on the other group
   * @param until as in a verdict
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND} when there is no such
   *     group, or that decision does not stand
   */
  Decided accept(int projectId, long group, long decision, @Nullable Instant until, Hand hand);

  /**
   * What was decided of the group comes to its end: what fails in runs that begin then or later
   * asks again.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND} when there is no such
   *     group, {@code NOT_EXPLAINED} when nothing that was decided of it stands
   */
  void mended(int projectId, long group, Instant at, Hand hand);

  /**
   * Puts groups together: what they have, and what comes, belongs to one of them. If something
   * explains that one, it explains all; else what explains the first of the others that has it.
   *
   * @param into the one that stays
   * @param groups the others
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND} when one of them is not
   *     there
   */
  void join(int projectId, long into, List<Long> groups, Hand hand);

  /**
   * Takes what some tests have of a group out of it, and what they will have.
   *
   * @return the group that it becomes; nobody has explained that one
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND} when there is no such
   *     group, {@code INVALID_VALUE} when it has none of one of the tests, or only these
   */
  long part(int projectId, long group, List<Long> tests, Hand hand);

  /**
   * Undoes that a group was joined to another one, or was taken out of one.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND} when it was not
   */
  void asFound(int projectId, long group, Hand hand);

  /**
   * Gives the group to somebody.
   *
   * @param to null to nobody
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND} when there is no such
   *     group
   */
  void assign(int projectId, long group, @Nullable String to, Hand hand);
}
