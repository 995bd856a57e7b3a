package org.vinecellar.service.triage;

import java.time.Instant;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.desk.GroupDetail;
import org.vinecellar.core.triage.desk.Regrouped;
import org.vinecellar.core.triage.desk.Suggestion;
import org.vinecellar.service.triage.DeskBody.GroupLineBody;
import org.vinecellar.service.triage.DeskBody.SeenInBody;

/**
 * A failure group, whole.
 *
 * @param values what stood in each hole of the first line of the template in the latest results; at
 *     most 20 of each, empty where their first lines tell something else
 * @param tests those with most of its latest 500 results first; at most 50
 * @param shots the last picture of some of the latest results, of different tests first; at most 6
 * @param streams the latest first; at most 20
 * @param strip the latest 60 runs that have it, the latest last
 * @param past all that was ever decided of it, the latest first; at most 50
 * @param similar other groups with like errors, the likest first
 * @param regrouped what people put together with it, or apart from it, the latest first; at most 50
 * @param suggestion what is likely to explain it; null when nothing is
 */
@Schema(name = "GroupDetail")
public record GroupBody(
    GroupLineBody line,
    List<List<String>> values,
    List<GroupTestBody> tests,
    List<ShotBody> shots,
    List<GroupStreamBody> streams,
    List<GroupRunBody> strip,
    List<PastBody> past,
    List<SimilarBody> similar,
    List<RegroupedBody> regrouped,
    @Schema(nullable = true) @Nullable SuggestionBody suggestion) {
  static GroupBody of(GroupDetail detail) {
    return new GroupBody(
        GroupLineBody.of(detail.line()),
        detail.values(),
        detail.tests().stream().map(GroupTestBody::of).toList(),
        detail.shots().stream().map(ShotBody::of).toList(),
        detail.streams().stream().map(GroupStreamBody::of).toList(),
        detail.strip().stream()
            .map(one -> new GroupRunBody(SeenInBody.of(one.run()), one.results(), one.open()))
            .toList(),
        detail.said().stream().map(PastBody::of).toList(),
        detail.similar().stream().map(SimilarBody::of).toList(),
        detail.regrouped().stream().map(RegroupedBody::of).toList(),
        SuggestionBody.of(detail.suggestion()));
  }

  /**
   * A picture of a result.
   *
   * @param test the innermost suite's name, a hash and the test's name with its parameters
   * @param attachment its ID in the run
   */
  @Schema(name = "Shot")
  public record ShotBody(
      SeenInBody run, String test, String result, String attachment, String name) {
    static ShotBody of(GroupDetail.Shot one) {
      return new ShotBody(
          SeenInBody.of(one.run()),
          one.test(),
          one.result().toString(),
          one.attachment().toString(),
          one.name());
    }
  }

  /**
   * A test of a group.
   *
   * @param name the innermost suite's name, a hash and the test's name with its parameters
   * @param results of the test among the latest 5000 of the group
   * @param last the latest run with such a result
   * @param result the one of that run
   */
  @Schema(name = "GroupTest")
  public record GroupTestBody(long test, String name, int results, SeenInBody last, String result) {
    static GroupTestBody of(GroupDetail.OfTest one) {
      return new GroupTestBody(
          one.test(),
          one.name(),
          one.results(),
          SeenInBody.of(one.last()),
          one.result().toString());
    }
  }

  /**
   * A stream in which a group was seen.
   *
   * @param runs that have it
   * @param last the latest of them
   * @param since the first of those up to the latest between which none is without it
   * @param before the last run without it before those; null when there is none
   * @param gone whether a later run of the stream is without it
   */
  @Schema(name = "GroupStream")
  public record GroupStreamBody(
      String stream,
      int runs,
      CommitBody last,
      CommitBody since,
      @Schema(nullable = true) @Nullable CommitBody before,
      boolean gone) {
    static GroupStreamBody of(GroupDetail.OfStream one) {
      return new GroupStreamBody(
          one.stream(),
          one.runs(),
          CommitBody.some(one.last()),
          CommitBody.some(one.since()),
          CommitBody.of(one.before()),
          one.gone());
    }
  }

  /**
   * A run of a stream.
   *
   * @param commit null when nobody told
   */
  @Schema(name = "CommitOfRun")
  public record CommitBody(
      int number, Instant at, @Schema(nullable = true) @Nullable String commit) {
    static CommitBody some(GroupDetail.Commit one) {
      return new CommitBody(one.number(), one.at(), one.commit());
    }

    static @Nullable CommitBody of(GroupDetail.@Nullable Commit one) {
      return one == null ? null : some(one);
    }
  }

  /** How many results a run has of a group. */
  @Schema(name = "GroupRun")
  public record GroupRunBody(SeenInBody run, int results, int open) {}

  /**
   * A decision.
   *
   * @param run at which it was made; null when that is gone
   * @param scope result (for one alone), onwards (for the group from that run on) or whole
   * @param results that it explains now; 10000 are that many or more
   * @param ends runs that began then or later are not explained by it; null for never
   * @param endedBy mended, date or ticket; null for never
   * @param undoneAt null while it stands
   * @param like the group whose explanation was accepted for this one; null for none
   */
  @Schema(name = "PastDecision")
  public record PastBody(
      SaidBody said,
      @Schema(nullable = true) @Nullable SeenInBody run,
      Instant at,
      String scope,
      int results,
      @Schema(nullable = true) @Nullable Instant ends,
      @Schema(nullable = true) @Nullable String endedBy,
      @Schema(nullable = true) @Nullable Instant undoneAt,
      @Schema(nullable = true) @Nullable String undoneBy,
      @Schema(nullable = true) @Nullable Long like) {
    static PastBody of(GroupDetail.Past past) {
      return new PastBody(
          new SaidBody(
              past.said().id(),
              past.said().category(),
              past.said().origin().word(),
              past.said().comment(),
              past.said().by()),
          past.run() == null ? null : SeenInBody.of(past.run()),
          past.at(),
          past.scope(),
          past.results(),
          past.ends(),
          past.endedBy() == null ? null : past.endedBy().word(),
          past.undoneAt(),
          past.undoneBy(),
          past.like());
    }
  }

  /**
   * Another group.
   *
   * @param likeness of the words of both errors, from 0 to 1
   * @param words that both errors have, some of them
   * @param sameTests that have results of both
   * @param sameRuns of the latest 100 runs of the group that have both
   * @param said what explains it; null for nothing
   */
  @Schema(name = "SimilarGroup")
  public record SimilarBody(
      long group,
      TitleBody title,
      String keyKind,
      String sentence,
      String template,
      double likeness,
      List<String> words,
      int sameTests,
      int sameRuns,
      @Schema(nullable = true) @Nullable SaidBody said) {
    static SimilarBody of(GroupDetail.Similar one) {
      return new SimilarBody(
          one.id(),
          TitleBody.of(one.kind(), one.sentence(), one.template()),
          one.kind().word(),
          one.sentence(),
          one.template(),
          one.likeness(),
          one.words(),
          one.sameTests(),
          one.sameRuns(),
          SaidBody.of(one.said()));
    }
  }

  /**
   * What people put together or apart.
   *
   * @param what joined (the other is in this one), parted (the other was taken out of this one) or
   *     parted-from (this one was taken out of the other)
   * @param group the other one
   * @param tests that were put apart; 0 for a whole group
   */
  @Schema(name = "Regrouped")
  public record RegroupedBody(
      String what,
      long group,
      TitleBody title,
      String keyKind,
      String sentence,
      String template,
      int tests,
      Instant at,
      String by) {
    static RegroupedBody of(Regrouped one) {
      return new RegroupedBody(
          one.what().word(),
          one.group(),
          TitleBody.of(one.kind(), one.sentence(), one.template()),
          one.kind().word(),
          one.sentence(),
          one.template(),
          one.tests(),
          one.at(),
          one.by());
    }
  }

  /**
   * An explanation of another group that may explain this one, too. It explains nothing until
   * somebody accepts it.
   *
   * @param strength slight, fair or strong
   * @param right how often, of such strength, people then said the same of the group
   * @param of how often they said something while there was such a suggestion
   */
  @Schema(name = "Suggestion")
  public record SuggestionBody(SimilarBody like, String strength, int right, int of) {
    static @Nullable SuggestionBody of(@Nullable Suggestion one) {
      return one == null
          ? null
          : new SuggestionBody(
              SimilarBody.of(one.like()), one.strength().word(), one.right(), one.of());
    }
  }
}
