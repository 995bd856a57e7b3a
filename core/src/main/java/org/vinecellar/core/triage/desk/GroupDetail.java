package org.vinecellar.core.triage.desk;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.attachments.AttachmentId;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.triage.decisions.EndedBy;
import org.vinecellar.core.triage.decisions.FailureLine.Said;
import org.vinecellar.core.triage.signature.KeyKind;

/**
 * A failure group, whole.
 *
 * @param values what stood in each hole of the first line of the template, in some of its results
 * @param tests those with most results first; the first ones only
 * @param shots the last picture of some of the latest results, of different tests first
 * @param streams each stream in which it was seen, the latest first
 * @param strip the latest runs that have it, the latest last
 * @param said all that was ever decided of it, the latest first
 * @param similar other groups with like errors, the likest first
 * @param regrouped what people put together with it, or apart from it, the latest first
 * @param suggestion what is likely to explain it; null when nothing is
 */
public record GroupDetail(
    GroupLine line,
    List<List<String>> values,
    List<OfTest> tests,
    List<Shot> shots,
    List<OfStream> streams,
    List<InRun> strip,
    List<Past> said,
    List<Similar> similar,
    List<Regrouped> regrouped,
    @Nullable Suggestion suggestion) {

  /** Tests are counted in so many of the latest results. */
  public static final int LATEST = 500;

  /** What a decision explains is counted so far; that many are that many or more. */
  public static final int MOST_COUNTED = 10_000;

  /** Checks nulls and copies the lists. */
  public GroupDetail {
    Objects.requireNonNull(line);
    values = List.copyOf(values);
    tests = List.copyOf(tests);
    shots = List.copyOf(shots);
    streams = List.copyOf(streams);
    strip = List.copyOf(strip);
    said = List.copyOf(said);
    similar = List.copyOf(similar);
    regrouped = List.copyOf(regrouped);
  }

  /**
   * A picture of one of its results.
   *
   * @param test the suite's own name, a hash, the test's name and parameters
   * @param name of the picture
   */
  public record Shot(
      GroupLine.SeenIn run, String test, ResultId result, AttachmentId attachment, String name) {}

  /**
   * A test of it.
   *
   * @param name the suite's own name, a hash, the test's name and parameters
   * @param results of the test among the latest of the group
   * @param last the latest run with such a result
   * @param result the one of that run
   */
  public record OfTest(
      long test, String name, int results, GroupLine.SeenIn last, ResultId result) {}

  /**
   * A stream in which it was seen.
   *
   * @param runs that have it
   * @param last the latest of them
   * @param since the first of those that have it without one between that has not; up to the latest
   * @param before the run before that one; null when there is none
   * @param gone whether a later run of the stream has it no more
   */
  public record OfStream(
      String stream, int runs, Commit last, Commit since, @Nullable Commit before, boolean gone) {}

  /**
   * A run and what it was made of.
   *
   * @param commit null when nobody told
   */
  public record Commit(int number, Instant at, @Nullable String commit) {}

  /** How many results a run has of it. */
  public record InRun(GroupLine.SeenIn run, int results, int open) {}

  /**
   * A decision.
   *
   * @param run at which it was made
   * @param scope for what it was made
   * @param results that it explains now, as far as they are counted
   * @param ends when it came, or comes, to its end; null for never
   * @param endedBy why; null for never
   * @param undoneBy null while it stands
   * @param like the group whose explanation was accepted for this one; null for none
   */
  public record Past(
      Said said,
      GroupLine.@Nullable SeenIn run,
      Instant at,
      String scope,
      int results,
      @Nullable Instant ends,
      @Nullable EndedBy endedBy,
      @Nullable Instant undoneAt,
      @Nullable String undoneBy,
      @Nullable Long like) {}

  /**
   * Another group.
   *
   * @param likeness of the words of both errors, from 0 to 1
   * @param words that both errors have, some of them
   * @param sameTests that have results of both
   * @param sameRuns of the latest runs of the group that have both
   * @param said what explains it; null for nothing
   */
  public record Similar(
      long id,
      KeyKind kind,
      String sentence,
      String template,
      double likeness,
      List<String> words,
      int sameTests,
      int sameRuns,
      @Nullable Said said) {}
}
