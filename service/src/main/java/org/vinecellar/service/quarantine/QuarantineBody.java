package org.vinecellar.service.quarantine;

import java.time.Instant;
import java.time.LocalDate;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.quarantine.Lately;
import org.vinecellar.core.quarantine.Quarantine;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.service.trust.TestWords;

/**
 * A test whose failures fail no gate for a while.
 *
 * @param testId the number of the test
 * @param test the innermost suite's name, a hash and the test's name with its parameters
 * @param variant its words as key=value with commas between; empty for none
 * @param stream where it holds; null for every stream
 * @param standing holds; ending: its last day is near; over: its last day is past, and failures
 *     count again; clean: it could come back; gone: no run has it any more; ended by somebody
 * @param until the last day, in UTC
 * @param since it lets pass what fails in runs that begin from then on
 * @param ran in how many runs it passed or failed since, of the latest hundred of each stream
 * @param failed in how many of them a try of it failed
 * @param clean how many passed since the last of those
 * @param missing how many of the latest runs have not had it
 * @param verdict what it is taken for; null when it never failed by itself
 */
@Schema(name = "Quarantine")
public record QuarantineBody(
    long id,
    int version,
    long testId,
    String test,
    String variant,
    @Schema(nullable = true) @Nullable String stream,
    @Schema(enumeration = {"holds", "ending", "over", "clean", "gone", "ended"}) String standing,
    String owner,
    String reason,
    @Schema(nullable = true) @Nullable String ticket,
    LocalDate until,
    Instant since,
    String by,
    @Schema(nullable = true) @Nullable Instant endedAt,
    @Schema(nullable = true) @Nullable String endedBy,
    int ran,
    int failed,
    int clean,
    int missing,
    @Schema(
            nullable = true,
            enumeration = {"flaky", "steady", "broken", "unsure"})
        @Nullable String verdict) {

  /**
   * @param today in UTC
   */
  public static QuarantineBody of(Quarantine one, LocalDate today) {
    KeptTest test = one.test();
    Lately lately = one.lately();
    return new QuarantineBody(
        one.id(),
        one.version(),
        test.id(),
        TestWords.shortly(test),
        TestWords.variant(test),
        one.stream(),
        one.standing(today).word(),
        one.terms().owner(),
        one.terms().reason(),
        one.terms().ticket(),
        one.terms().until(),
        one.since(),
        one.by(),
        one.ended(),
        one.endedBy(),
        lately.ran(),
        lately.failed(),
        lately.clean(),
        lately.missing(),
        lately.verdict() == null ? null : lately.verdict().word());
  }
}
