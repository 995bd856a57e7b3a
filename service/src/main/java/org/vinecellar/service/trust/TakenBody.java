package org.vinecellar.service.trust;

import java.time.LocalDate;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.TrustStore;

/**
 * A test in a stream, and what it is taken for there.
 *
 * @param cleanRuns how many more runs without a failure it takes until it is taken for something
 *     else; 0 when that is not known, and in lists of many tests
 * @param quarantined the last day on which it is in quarantine there, in UTC; null when it is not
 */
@Schema(name = "TestInStream")
public record TakenBody(
    String stream,
    EstimateBody estimate,
    int cleanRuns,
    @Schema(nullable = true) @Nullable LocalDate quarantined) {
  /** As the store tells it. */
  public static TakenBody of(TrustStore.InStream one) {
    return new TakenBody(
        one.stream(),
        EstimateBody.of(new TrustStore.TestLine(one.test(), one.estimate(), one.since())),
        one.cleanRuns(),
        one.quarantined());
  }
}
