package org.vinecellar.service.triage;

import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.decisions.Cause;
import org.vinecellar.service.triage.GroupsInRunBody.SeenBody;
import org.vinecellar.service.triage.tickets.TicketBody;

/**
 * Why a result fails, as far as it is known.
 *
 * @param group of failures that share the cause
 * @param title what people call the group
 * @param keyKind what the group is known by
 * @param sentence why they are one group
 * @param template the error, with a hole for each value
 * @param said null when nobody explained it
 * @param returned whether it is unexplained and fails again after it was mended, or after the day
 *     up to which it was explained
 * @param seen where the group was first seen; null when that run is gone
 * @param tickets that the group is linked to
 */
@Schema(name = "Cause")
public record CauseBody(
    long group,
    TitleBody title,
    String keyKind,
    String sentence,
    String template,
    @Schema(nullable = true) @Nullable SaidBody said,
    boolean returned,
    @Schema(nullable = true) @Nullable SeenBody seen,
    List<TicketBody> tickets) {
  /** As the API tells it; null for null. */
  public static @Nullable CauseBody of(@Nullable Cause cause) {
    return cause == null
        ? null
        : new CauseBody(
            cause.group(),
            TitleBody.of(cause.kind(), cause.sentence(), cause.template()),
            cause.kind().word(),
            cause.sentence(),
            cause.template(),
            SaidBody.of(cause.said()),
            cause.returned(),
            SeenBody.of(cause.seen()),
            TicketBody.of(cause.tickets()));
  }
}
