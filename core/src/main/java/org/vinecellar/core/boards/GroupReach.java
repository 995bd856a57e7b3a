package org.vinecellar.core.boards;

import java.util.List;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.desk.Title;

/**
 * How much a failure group has in some runs.
 *
 * @param title what people call it
 * @param results of it in them
 * @param open those of them that nothing explains
 * @param runs that have it
 * @param streams that they are of
 * @param tickets that it is linked to
 */
public record GroupReach(
    long group, Title title, int results, int open, int runs, int streams, List<Ticket> tickets) {
  /** Copies the tickets. */
  public GroupReach {
    tickets = List.copyOf(tickets);
  }
}
