package org.vinecellar.service.trust;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.statistics.Share;
import org.vinecellar.core.trust.TrustStore;
import org.vinecellar.core.trust.history.ByLabel;
import org.vinecellar.core.trust.history.Durations;
import org.vinecellar.core.trust.history.Evidence;
import org.vinecellar.core.trust.history.OrderClue;
import org.vinecellar.core.trust.history.PastResult;
import org.vinecellar.core.trust.history.Since;
import org.vinecellar.core.trust.history.Why;

/**
 * What a test did in the latest runs of a stream.
 *
 * @param sentence what it is taken for, and why
 * @param results the latest first
 * @param passed of the results that passed or failed
 * @param since since when it fails; null when it passed the last time
 * @param evidence that it fails by chance, the strongest first
 * @param order the test that ran before it, or did not, when it failed; null when none is known
 * @param labels of which the runs have several values
 * @param stretches in which it took about as long, the earliest first
 */
@Schema(name = "TestHistory")
public record HistoryBody(
    String sentence,
    List<PastBody> results,
    ShareBody passed,
    @Schema(nullable = true) @Nullable SinceBody since,
    List<EvidenceBody> evidence,
    @Schema(nullable = true) @Nullable OrderBody order,
    List<LabelBody> labels,
    List<StretchBody> stretches) {
  private static final int MOST_EVIDENCE = 50;

  /**
   * A result.
   *
   * @param run its number
   * @param runId its ID
   * @param result its ID in the run
   * @param durationMs null when not told
   * @param stumbled whether a try of it failed
   * @param alike how many results of its run have its failure group; 0 for none
   * @param called its name then, if that was another one
   */
  @Schema(name = "PastResult")
  public record PastBody(
      int run,
      long runId,
      String result,
      String outcome,
      Instant startedAt,
      @Schema(nullable = true) @Nullable String commit,
      @Schema(nullable = true) @Nullable String branch,
      Map<String, String> environment,
      @Schema(nullable = true) @Nullable Double durationMs,
      int attempts,
      boolean stumbled,
      @Schema(nullable = true) @Nullable Long group,
      int alike,
      @Schema(nullable = true) @Nullable String called) {
    static PastBody of(PastResult one) {
      return new PastBody(
          one.run().number(),
          one.run().id(),
          one.result().toString(),
          word(one.outcome()),
          one.run().started(),
          one.run().commit(),
          one.run().branch(),
          new TreeMap<>(one.run().environment()),
          one.micros() < 0 ? null : (Double) (one.micros() / 1000.0),
          one.attempts(),
          one.stumbled(),
          one.group(),
          one.alike(),
          one.called());
    }
  }

  /**
   * Some of several.
   *
   * @param low where the interval begins that has the true share in 19 of 20 cases
   * @param high where it ends
   */
  @Schema(name = "Share")
  public record ShareBody(int some, int all, double low, double high) {
    static ShareBody of(Share share) {
      return new ShareBody(
          Math.toIntExact(share.some()), Math.toIntExact(share.all()), share.low(), share.high());
    }
  }

  /**
   * Since when it fails.
   *
   * @param firstBad the number of the first run in which it failed
   * @param firstBadCommit of that run
   * @param lastGood the number of the last run before in which it passed; null when none is known
   * @param lastGoodCommit of that run
   * @param runs in how many it failed since
   */
  @Schema(name = "FailingSince")
  public record SinceBody(
      int firstBad,
      @Schema(nullable = true) @Nullable String firstBadCommit,
      @Schema(nullable = true) @Nullable Integer lastGood,
      @Schema(nullable = true) @Nullable String lastGoodCommit,
      int runs) {
    static @Nullable SinceBody of(@Nullable Since since) {
      if (since == null) {
        return null;
      }
      PastResult good = since.lastGood();
      return new SinceBody(
          since.firstBad().run().number(),
          since.firstBad().run().commit(),
          good == null ? null : (Integer) good.run().number(),
          good == null ? null : good.run().commit(),
          since.runs());
    }
  }

  /** What a result shows. */
  @Schema(name = "FlakyEvidence")
  public record EvidenceBody(
      @Schema(enumeration = {"passed on retry", "both on one commit", "alone between passes"})
          String kind,
      int run,
      String result) {
    static EvidenceBody of(Evidence one) {
      return new EvidenceBody(
          one.kind().name().toLowerCase(Locale.ROOT).replace('_', ' '),
          one.result().run().number(),
          one.result().result().toString());
    }
  }

  /**
   * Another test that it depends on.
   *
   * @param id its number
   * @param test the innermost suite's name, a hash and the test's name with its parameters
   * @param whenBefore whether it fails when that one was among the 200 tests before it in its part;
   *     else when that one did not
   * @param with in how many runs that was so
   * @param without in how many it was not
   */
  @Schema(name = "OrderClue")
  public record OrderBody(
      long id,
      String test,
      boolean whenBefore,
      int with,
      int failedWith,
      int without,
      int failedWithout) {
    static @Nullable OrderBody of(TrustStore.@Nullable RanBefore one) {
      if (one == null) {
        return null;
      }
      OrderClue clue = one.clue();
      return new OrderBody(
          one.other().id(),
          TestWords.shortly(one.other()),
          clue.whenBefore(),
          clue.with(),
          clue.failedWith(),
          clue.without(),
          clue.failedWithout());
    }
  }

  /** What it did where runs had each value of a label. */
  @Schema(name = "OutcomesByLabel")
  public record LabelBody(String key, List<ValueBody> values) {
    static LabelBody of(ByLabel one) {
      return new LabelBody(
          one.key(),
          one.values().stream()
              .map(v -> new ValueBody(v.value(), ShareBody.of(v.failed()), v.differs()))
              .toList());
    }
  }

  /**
   * A value.
   *
   * @param failed of its runs
   * @param differs whether that is other than elsewhere, and not by chance
   */
  @Schema(name = "OutcomesOfValue")
  public record ValueBody(String value, ShareBody failed, boolean differs) {}

  /**
   * A stretch of runs.
   *
   * @param fromRun the number of its first run
   * @param toRun the number of its last run
   * @param medianMs of its durations
   */
  @Schema(name = "DurationStretch")
  public record StretchBody(int fromRun, int toRun, double medianMs) {}

  /**
   * @param known what is believed of it in the stream; null when it never was in it
   */
  static HistoryBody of(
      List<PastResult> results,
      TrustStore.@Nullable InStream known,
      TrustStore.@Nullable RanBefore order) {
    List<Evidence> evidence = Evidence.of(results);
    Since since = Since.of(results);
    long passed = results.stream().filter(PastResult::passed).count();
    long told = results.stream().filter(PastResult::tells).count();
    return new HistoryBody(
        known == null
            ? "It was in no run of this stream."
            : Why.sentence(known.estimate(), evidence, since, known.cleanRuns()),
        results.stream().map(PastBody::of).toList(),
        ShareBody.of(Share.of(passed, told)),
        SinceBody.of(since),
        evidence.stream().limit(MOST_EVIDENCE).map(EvidenceBody::of).toList(),
        OrderBody.of(order),
        ByLabel.of(results).stream().map(LabelBody::of).toList(),
        stretches(results));
  }

  private static List<StretchBody> stretches(List<PastResult> results) {
    List<PastResult> timed = new ArrayList<>();
    for (PastResult one : results) {
      if (one.passed() && one.micros() >= 0) {
        timed.add(one);
      }
    }
    Collections.reverse(timed);
    double[] millis = timed.stream().mapToDouble(one -> one.micros() / 1000.0).toArray();
    return Durations.of(millis).stream()
        .map(
            s ->
                new StretchBody(
                    timed.get(s.from()).run().number(),
                    timed.get(s.to() - 1).run().number(),
                    s.millis()))
        .toList();
  }

  private static String word(Outcome outcome) {
    return outcome.word();
  }
}
