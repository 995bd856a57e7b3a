package org.vinecellar.service.triage.tickets;

import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.tickets.Entry;
import org.vinecellar.core.triage.tickets.Ranking.Ranked;

/**
 * An entry that a tracker found.
 *
 * @param link to its page; null when nobody knows where that is
 * @param likeness to the failure group, from 0 to 1
 * @param words that both have, those that tell most first
 * @param linked whether the group is linked to it
 */
@Schema(name = "TrackerEntry")
public record EntryBody(
    String key,
    String title,
    String state,
    boolean open,
    @Schema(nullable = true) @Nullable String link,
    double likeness,
    List<String> words,
    boolean linked) {
  static EntryBody of(Ranked ranked, boolean linked) {
    Entry entry = ranked.entry();
    return new EntryBody(
        entry.key(),
        entry.title(),
        entry.state(),
        entry.open(),
        entry.link(),
        ranked.likeness(),
        ranked.words(),
        linked);
  }

  /**
   * What was found.
   *
   * @param asked the words that were looked for
   * @param entries the likest first; at most 15
   * @param trouble why some of the words could not be looked for; null when all could
   */
  @Schema(name = "FoundEntries")
  public record FoundBody(
      List<String> asked,
      List<EntryBody> entries,
      @Schema(nullable = true) @Nullable String trouble) {}
}
