package org.vinecellar.service.quarantine;

import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.vinecellar.core.quarantine.QuarantineStore;

/**
 * Failing results of a run whose tests were in quarantine when it began.
 *
 * @param failing how many there are
 * @param newFailing those of them that did not fail in the run before
 * @param tests the numbers of their tests, at most 500
 */
@Schema(name = "QuarantinedInRun")
public record InRunBody(int failing, int newFailing, List<Long> tests) {
  /** As the store tells it. */
  public static InRunBody of(QuarantineStore.InRun told) {
    return new InRunBody(told.failing(), told.fresh(), told.tests());
  }
}
