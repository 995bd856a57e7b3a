package org.vinecellar.store.filters;

import org.jooq.Condition;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Relation;
import org.vinecellar.store.generated.tables.Ticket;

/** An entry of the tracker, as it was told last. */
final class TicketTerms extends Terms {
  private final Ticket ticket;

  TicketTerms(int projectId, int depth, Ticket ticket) {
    super(projectId, depth);
    this.ticket = ticket;
  }

  @Override
  Condition holds(Attribute attribute, @Nullable String key, Match match) {
    return switch (attribute) {
      case TICKET_KEY -> match.name(ticket.KEY);
      case TICKET_TITLE -> match.text(ticket.TITLE);
      case TICKET_STATE -> match.text(ticket.STATE);
      case TICKET_OPEN -> match.maybe(ticket.IS_OPEN);
      case TICKET_CLOSED -> match.time(ticket.CLOSED_AT);
      default -> throw notHere(attribute);
    };
  }

  @Override
  Condition within(Relation relation, Criterion criterion) {
    throw notHere(relation);
  }
}
