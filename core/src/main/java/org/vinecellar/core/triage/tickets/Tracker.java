package org.vinecellar.core.triage.tickets;

import java.util.List;
import java.util.Optional;

/**
 * An outside tracker. Each call throws a {@link TrackerException} when it does not answer in time
 * or answers what makes no sense: nothing is known of the entries then.
 */
public interface Tracker {
  /** Entries that have something to do with a text, as the tracker orders them. */
  List<Entry> find(String text, int most);

  /** Empty when there is no such entry, or not any more. */
  Optional<Entry> read(String key);

  /**
   * Makes an entry.
   *
   * @param text Markdown
   */
  Entry create(String title, String text);

  /** Says something of an entry. */
  void comment(String key, String text);
}
