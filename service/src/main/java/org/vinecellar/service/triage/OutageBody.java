package org.vinecellar.service.triage;

import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.decisions.Outage;

/**
 * One cause that fails most of a run.
 *
 * @param results of the run that fail for it
 * @param tests of the run that ran, or were kept from it
 */
@Schema(name = "Outage")
public record OutageBody(
    long group,
    TitleBody title,
    String keyKind,
    String sentence,
    String template,
    int results,
    int tests) {
  /** As the API tells it; null for null. */
  public static @Nullable OutageBody of(@Nullable Outage outage) {
    return outage == null
        ? null
        : new OutageBody(
            outage.group(),
            TitleBody.of(outage.kind(), outage.sentence(), outage.template()),
            outage.kind().word(),
            outage.sentence(),
            outage.template(),
            outage.results(),
            outage.tests());
  }
}
