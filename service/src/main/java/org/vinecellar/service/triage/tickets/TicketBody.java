package org.vinecellar.service.triage.tickets;

import java.time.Instant;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.decisions.Ticket;

/**
 * An entry of the tracker, as it was told last.
 *
 * @param key by which people know it there; null while it waits to be made
 * @param state in the tracker's own word; null while nothing is known
 * @param open null while nothing is known
 * @param link to its page; null when nobody knows where that is
 * @param checkedAt when the tracker told that; null while it did not
 * @param trouble why the tracker could not be asked the last time; null when it could
 * @param mismatch lost (the tracker does not know it), still-fails (closed, and a later run fails)
 *     or not-seen (open, and its streams have long run without the failure); null for none
 */
@Schema(name = "Ticket")
public record TicketBody(
    long ticket,
    @Schema(nullable = true) @Nullable String key,
    String title,
    @Schema(nullable = true) @Nullable String state,
    @Schema(nullable = true) @Nullable Boolean open,
    @Schema(nullable = true) @Nullable String link,
    @Schema(nullable = true) @Nullable Instant checkedAt,
    @Schema(nullable = true) @Nullable String trouble,
    @Schema(nullable = true) @Nullable String mismatch) {
  static TicketBody of(Ticket one) {
    return new TicketBody(
        one.id(),
        one.key(),
        one.title(),
        one.state(),
        one.open(),
        one.link(),
        one.checkedAt(),
        one.trouble(),
        one.mismatch() == null ? null : one.mismatch().word());
  }

  /** As the API tells them. */
  public static List<TicketBody> of(List<Ticket> all) {
    return all.stream().map(TicketBody::of).toList();
  }
}
