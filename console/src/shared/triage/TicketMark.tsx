import { CircleCheck, CircleDot, CircleHelp, TriangleAlert } from 'lucide-react';
import type { Ticket } from './api';
import { mismatchWords } from './tickets';

/** A ticket by its key and state, with what does not fit; leads to its page. */
export function TicketMark({ ticket }: { ticket: Ticket }) {
  const wrong = mismatchWords(ticket);
  const words = (
    <>
      <Standing ticket={ticket} />
      <span className="font-mono text-[12px]">{ticket.key ?? 'new ticket'}</span>
      <span className={wrong ? 'font-semibold text-errored' : 'text-quiet'}>
        {wrong ?? ticket.state ?? 'waits for the tracker'}
      </span>
    </>
  );
  const look =
    'inline-flex max-w-full shrink-0 items-baseline gap-1 rounded-field border border-base-300 bg-base-100 px-1.5 text-[13px]';
  return ticket.link ? (
    <a
      href={ticket.link}
      target="_blank"
      rel="noreferrer"
      title={ticket.title}
      className={`${look} hover:border-base-content`}
    >
      {words}
    </a>
  ) : (
    <span title={ticket.title} className={look}>
      {words}
    </span>
  );
}

/** Open, closed or not known: by its form, not by colour alone. */
export function Standing({ ticket }: { ticket: Pick<Ticket, 'open' | 'mismatch'> }) {
  const of = { size: 14, 'aria-hidden': true, className: 'shrink-0 self-center' } as const;
  if (ticket.mismatch) {
    return <TriangleAlert {...of} className="shrink-0 self-center text-errored" />;
  }
  if (ticket.open === null) {
    return <CircleHelp {...of} className="shrink-0 self-center text-quiet" />;
  }
  return ticket.open ? (
    <CircleDot {...of} />
  ) : (
    <CircleCheck {...of} className="shrink-0 self-center text-passed" />
  );
}

/** Of several, the one that says what does not fit, or the first; nothing for none. */
export function TicketBadge({ of }: { of: Ticket[] }) {
  const one = of.find((ticket) => ticket.mismatch !== null) ?? of[0];
  const more = of.length > 1 ? ` +${of.length - 1}` : '';
  return one ? (
    <span
      className={`inline-flex shrink-0 items-baseline gap-1 ${one.mismatch ? 'text-errored' : ''}`}
      title={mismatchWords(one) ?? one.state ?? 'waits for the tracker'}
    >
      <Standing ticket={one} />
      <span className="font-mono text-[12px]">
        {one.key ?? 'new ticket'}
        {more}
      </span>
      {one.mismatch ? <span className="sr-only">{mismatchWords(one)}</span> : null}
    </span>
  ) : null;
}
