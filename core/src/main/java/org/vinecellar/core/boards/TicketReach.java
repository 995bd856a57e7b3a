package org.vinecellar.core.boards;

import org.vinecellar.core.triage.decisions.Ticket;

/**
 * For how much a ticket stands in some runs.
 *
 * @param groups that are linked to it
 * @param results of them
 * @param runs that have one of them
 */
public record TicketReach(Ticket ticket, int groups, int results, int runs) {}
