package org.vinecellar.service.trust.ranks;

import java.time.Instant;
import java.time.LocalDate;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.trust.ranks.RankStore;
import org.vinecellar.service.trust.TestWords;

/**
 * A test in a stream with its figures of the latest sixty runs, as they were last counted.
 *
 * @param id its number
 * @param test the innermost suite's name, a hash and the test's name with its parameters
 * @param variant its words as key=value with commas between; empty for none
 * @param ran in how many of the runs it passed or failed
 * @param failed in how many of them it failed in the end
 * @param alone in how many of the runs it failed and nothing else did
 * @param retriedMillis what its tries in all of them took beside the last one of each
 * @param weekly how often a week it runs
 * @param millis how long it takes now; null when not known
 * @param beforeMillis how long it took before it became slower; null when it did not
 * @param slowerSince the number of the run since when; null when it did not
 * @param weeklyCostMillis what its being slower costs a week; 0 when it is not
 * @param lastRun the number of the run that had it last
 * @param missing how many of the latest runs have not had it
 * @param firstRun the number of the first run that had it; null when that one is gone
 * @param quarantined the last day on which it is in quarantine there; null when it is not
 */
@Schema(name = "RankedTest")
public record RankedBody(
    long id,
    String test,
    String variant,
    String stream,
    int ran,
    int failed,
    int alone,
    double retriedMillis,
    double weekly,
    @Schema(nullable = true) @Nullable Double millis,
    @Schema(nullable = true) @Nullable Double beforeMillis,
    @Schema(nullable = true) @Nullable Integer slowerSince,
    double weeklyCostMillis,
    int lastRun,
    Instant lastAt,
    int missing,
    @Schema(nullable = true) @Nullable Integer firstRun,
    @Schema(nullable = true) @Nullable LocalDate quarantined) {
  /** As the store tells it. */
  public static RankedBody of(RankStore.Ranked one) {
    KeptTest test = one.test();
    return new RankedBody(
        test.id(),
        TestWords.shortly(test),
        TestWords.variant(test),
        one.stream(),
        one.ran(),
        one.failed(),
        one.alone(),
        one.retriedMillis(),
        Math.round(one.weekly() * 100) / 100.0,
        one.millis(),
        one.before(),
        one.slowerSince(),
        one.weeklyCost(),
        one.last(),
        one.lastAt(),
        one.missing(),
        one.first(),
        one.quarantined());
  }
}
