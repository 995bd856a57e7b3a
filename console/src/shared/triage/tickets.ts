import type { Ticket } from './api';

/** What a ticket says that does not fit what is seen; nothing when all fits. */
export function mismatchWords(ticket: Pick<Ticket, 'mismatch' | 'state'>): string | undefined {
  switch (ticket.mismatch) {
    case 'still-fails':
      return `${ticket.state ?? 'closed'}, but it still fails`;
    case 'not-seen':
      return `${ticket.state ?? 'open'}, but not seen for long`;
    case 'lost':
      return 'not in the tracker any more';
    default:
      return undefined;
  }
}
