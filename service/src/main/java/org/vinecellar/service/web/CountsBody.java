package org.vinecellar.service.web;

import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.vinecellar.core.results.Counts;

/**
 * How many results came to what.
 *
 * @param tests all of them; set-ups are none
 * @param retried counted under their outcome too
 * @param setUps set-ups that failed
 */
@Schema(name = "Counts")
public record CountsBody(
    int tests,
    int passed,
    int failed,
    int errored,
    int skipped,
    int notReached,
    int retried,
    int setUps) {
  /** The same as a body. */
  public static CountsBody of(Counts c) {
    return new CountsBody(
        c.tests(),
        c.passed(),
        c.failed(),
        c.errored(),
        c.skipped(),
        c.notReached(),
        c.retried(),
        c.setUps());
  }
}
