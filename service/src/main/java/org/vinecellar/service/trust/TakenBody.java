package org.vinecellar.service.trust;

import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.vinecellar.core.trust.TrustStore;

/**
 * A test in a stream, and what it is taken for there.
 *
 * @param cleanRuns how many more runs without a failure it takes until it is taken for something
 *     else; 0 when that is not known
 */
@Schema(name = "TestInStream")
public record TakenBody(String stream, EstimateBody estimate, int cleanRuns) {
  static TakenBody of(TrustStore.InStream one) {
    return new TakenBody(
        one.stream(),
        EstimateBody.of(new TrustStore.TestLine(one.test(), one.estimate(), one.since())),
        one.cleanRuns());
  }
}
