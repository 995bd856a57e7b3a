import { useMutation, useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { RefreshCw, X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useKeys } from '../../../shared/lib/keys';
import { useMayEdit } from '../../../shared/session/may';
import { type Group, type Ticket, useDecided } from '../../../shared/triage/api';
import { TicketMark } from '../../../shared/triage/TicketMark';
import { Wrong } from '../../../shared/ui/Form';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { trackerQuery } from '../tracker/api';
import { FindTicket } from './FindTicket';
import { NewTicket } from './NewTicket';
import { askForTicket, unlinkTicket } from './tickets';

type Doing = 'find' | 'make' | undefined;

/** The tickets of a group: how they stand, and how it gets one. */
export function Tickets({ project, line }: { project: string; line: Group }) {
  const mayEdit = useMayEdit(project);
  const tracker = useQuery(trackerQuery(project)).data;
  const decided = useDecided(project);
  const [doing, setDoing] = useState<Doing>(undefined);
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    if (doing !== undefined) {
      box.current?.scrollIntoView({ block: 'start' });
    }
  }, [doing]);
  const there = tracker !== undefined && tracker.version > 0;
  const mayLink = mayEdit && there;
  const taking = useMutation({
    mutationFn: (ticket: number) => unlinkTicket(project, line.group, ticket),
    onSettled: decided,
  });
  const asking = useMutation({
    mutationFn: (ticket: number) => askForTicket(project, line.group, ticket),
    onSettled: decided,
  });
  useKeys((event) => {
    if (event.key === 'l' && mayLink && !event.repeat) {
      event.preventDefault();
      setDoing(doing === 'find' ? undefined : 'find');
    }
  });
  const done = () => {
    setDoing(undefined);
    decided();
  };
  return (
    <section ref={box} className="scroll-mt-3" aria-label="Tickets">
      <div className="flex flex-wrap items-baseline gap-3">
        <h3 className="font-semibold">Tickets</h3>
        {line.tickets.length === 0 && there ? (
          <span className="text-sm text-quiet">none yet</span>
        ) : null}
        {tracker !== undefined && !there ? (
          <span className="text-sm text-quiet">
            no tracker is set up:{' '}
            <Link to="/$project/triage/tracker" params={{ project }} className="link">
              Triage, Tracker
            </Link>
          </span>
        ) : null}
        {mayLink ? (
          <span className="ml-auto flex gap-1">
            <Opener now={doing} opens="find" onChange={setDoing}>
              <kbd className="kbd kbd-xs">l</kbd> Find one
            </Opener>
            {tracker.canCreate ? (
              <Opener now={doing} opens="make" onChange={setDoing}>
                New one
              </Opener>
            ) : null}
          </span>
        ) : null}
      </div>
      {line.tickets.length > 0 ? (
        <ul className="mt-1 text-sm">
          {line.tickets.map((one) => (
            <Row
              key={one.ticket}
              ticket={one}
              busy={asking.isPending}
              onAsk={mayLink ? () => asking.mutate(one.ticket) : undefined}
              onTake={mayEdit ? () => taking.mutate(one.ticket) : undefined}
            />
          ))}
        </ul>
      ) : null}
      <Wrong error={taking.error ?? asking.error} />
      {doing === 'find' ? <FindTicket project={project} line={line} onLinked={decided} /> : null}
      {doing === 'make' ? <NewTicket project={project} group={line.group} onMade={done} /> : null}
    </section>
  );
}

function Opener(props: {
  now: Doing;
  opens: Doing;
  onChange: (next: Doing) => void;
  children: React.ReactNode;
}) {
  const open = props.now === props.opens;
  return (
    <button
      type="button"
      aria-expanded={open}
      onClick={() => props.onChange(open ? undefined : props.opens)}
      className="btn btn-ghost btn-sm gap-1.5 px-2 font-normal"
    >
      {props.children}
    </button>
  );
}

function Row(props: {
  ticket: Ticket;
  busy: boolean;
  onAsk: (() => void) | undefined;
  onTake: (() => void) | undefined;
}) {
  const { ticket, onAsk, onTake } = props;
  const name = ticket.key ?? ticket.title;
  return (
    <li className="flex items-baseline gap-3 border-b border-base-300/70 py-1.5 last:border-0">
      <TicketMark ticket={ticket} />
      <span className="min-w-0 grow truncate" title={ticket.title}>
        {ticket.title}
      </span>
      <span className="shrink-0 text-[13px] text-quiet">
        {ticket.trouble ? (
          <span title={ticket.trouble}>tracker away</span>
        ) : ticket.checkedAt ? (
          <>
            asked <RelativeTime iso={ticket.checkedAt} />
          </>
        ) : (
          'not asked yet'
        )}
      </span>
      {onAsk ? (
        <button
          type="button"
          aria-label={`Ask how ${name} stands`}
          title="Ask the tracker now"
          disabled={props.busy}
          onClick={onAsk}
          className="self-center rounded text-quiet hover:bg-base-300/60 hover:text-base-content"
        >
          <RefreshCw size={14} aria-hidden />
        </button>
      ) : null}
      {onTake ? (
        <button
          type="button"
          aria-label={`Take ${name} away`}
          title="It does not belong to this group"
          onClick={onTake}
          className="self-center rounded text-quiet hover:bg-base-300/60 hover:text-base-content"
        >
          <X size={15} aria-hidden />
        </button>
      ) : null}
    </li>
  );
}
