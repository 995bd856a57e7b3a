package org.vinecellar.core.triage.tickets;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.triage.decisions.Ticket;

/**
 * Keeps how the tracker of a project is spoken to, which tickets its failure groups have, and what
 * has still to be done there. It never speaks to a tracker itself.
 */
public interface TicketStore {
  /** An open one is asked for again after so long. */
  Duration FRESH = Duration.ofMinutes(5);

  /** A closed one is. */
  Duration CLOSED = Duration.ofMinutes(30);

  /**
   * A tracker as it is kept.
   *
   * @param secret for its header; null for none
   * @param version goes up with every change
   * @param trouble why it could not be asked the last time; null when it could
   */
  record Kept(
      TrackerSettings settings,
      @Nullable String secret,
      int version,
      Instant changedAt,
      String changedBy,
      @Nullable String trouble,
      @Nullable Instant troubleAt) {
    /** Checks nulls. */
    public Kept {
      Objects.requireNonNull(settings);
      Objects.requireNonNull(changedAt);
      Objects.requireNonNull(changedBy);
    }
  }

  /** Empty when the project has none. */
  Optional<Kept> tracker(int projectId);

  /**
   * Keeps it. Tickets of another tracker than before are lost.
   *
   * @param secret null for the one that it has, which is only for the same host
   * @param version that was seen; 0 for none
   * @throws org.vinecellar.core.problem.CellarException {@code EDITED_MEANWHILE}
   */
  Kept keep(
      int projectId, TrackerSettings settings, @Nullable String secret, int version, Hand hand);

  /** Forgets how it is spoken to. Tickets stay linked as they were known. */
  void forget(int projectId, Hand hand);

  /** The tickets of a group, the first that was linked first. */
  List<Ticket> ofGroup(int projectId, long group);

  /**
   * Links an entry to a group; once, however often it is asked for.
   *
   * @param seen what the tracker says of it; null when it could not be asked
   * @param say what it is to be told; null for nothing
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND} when there is no such
   *     group
   */
  Ticket link(
      int projectId, long group, String key, @Nullable Entry seen, @Nullable String say, Hand hand);

  /**
   * Leaves an entry to be made, and links it.
   *
   * @param mark stands in the text and nowhere else: by it an entry is found that was made
   *     unnoticed
   */
  Ticket leave(int projectId, long group, String title, String text, String mark, Hand hand);

  /** What belongs to the group no more. Nothing happens to it in the tracker. */
  void unlink(int projectId, long group, long ticket, Hand hand);

  /** Leaves something to be told of a ticket of a group. */
  void say(int projectId, long group, long ticket, String text, Hand hand);

  /** What the tracker says of a ticket of a group is due now. */
  void ask(int projectId, long group, long ticket, Hand hand);

  /**
   * What is to be done in a tracker.
   *
   * @param key null when the entry has still to be made
   * @param draft the text of one that has
   * @param unsaid what is to be told of it; null for nothing
   * @param tries that were begun before
   */
  record Errand(
      int projectId,
      long ticket,
      @Nullable String key,
      String title,
      @Nullable String draft,
      @Nullable String mark,
      @Nullable String unsaid,
      int tries) {}

  /** Takes what is due, so that nobody else does it for a minute. */
  List<Errand> due(Instant now, int most);

  /** Takes what there is to do for one ticket; empty when somebody else does it. */
  Optional<Errand> take(int projectId, long ticket, Instant now);

  /** What the tracker says of one now; it has been made, if it had to be. */
  void seen(int projectId, long ticket, Entry entry, Instant now);

  /** The tracker does not know it. */
  void lost(int projectId, long ticket, Instant now);

  /** That is about to be told of it: if it is cut off, it is not told twice. */
  void told(int projectId, long ticket, String text, Instant now);

  /** It could not be told, and surely was not. */
  void untold(int projectId, long ticket, String text);

  /** The tracker could not be asked; it is tried again, later with each try. */
  void failed(int projectId, long ticket, String trouble, int tries, Instant now);
}
