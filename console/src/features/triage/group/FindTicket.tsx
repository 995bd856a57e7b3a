import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import type { Group, TrackerEntry } from '../../../shared/triage/api';
import { Standing } from '../../../shared/triage/TicketMark';
import { Wrong } from '../../../shared/ui/Form';
import { Failed, Loading } from '../../../shared/ui/States';
import { alikeQuery, linkTicket } from './tickets';

/** Entries of the tracker that are like the group, or have a text; one is linked by a click. */
export function FindTicket(props: { project: string; line: Group; onLinked: () => void }) {
  const { project, line } = props;
  const [typed, setTyped] = useState('');
  const [asked, setAsked] = useState('');
  const found = useQuery({
    ...alikeQuery(project, line.group, asked),
    placeholderData: keepPreviousData,
  });
  const linking = useMutation({
    mutationFn: (key: string) => linkTicket(project, line.group, key),
    onSuccess: props.onLinked,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setAsked(typed.trim());
  };
  const linked = new Set(line.tickets.map((one) => one.key));
  return (
    <div className="mt-2 rounded-box border border-base-300 bg-base-200/60 px-4 py-3">
      <form onSubmit={submit} className="flex gap-2">
        <input
          className="input input-sm min-w-0 grow"
          aria-label="Look for in the tracker"
          placeholder="Words to look for, or the key of an entry"
          maxLength={300}
          // biome-ignore lint/a11y/noAutofocus: it was opened to be written in
          autoFocus
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Escape') {
              e.currentTarget.blur();
            }
          }}
        />
        <button type="submit" className="btn btn-sm">
          Look
        </button>
        <button
          type="button"
          className="btn btn-sm"
          disabled={typed.trim() === '' || linking.isPending}
          onClick={() => linking.mutate(typed.trim())}
        >
          Link this key
        </button>
      </form>
      <Wrong error={linking.error} />
      {found.isPending ? <Loading lines={3} /> : null}
      {found.error ? <Failed error={found.error} retry={() => found.refetch()} /> : null}
      {found.data && !found.error ? (
        <div className={found.isPlaceholderData ? 'opacity-60' : ''}>
          <p className="mt-2 text-[13px] text-quiet">
            {lookedFor(found.data.asked, found.data.entries.length)}
            {found.data.trouble ? ` · ${found.data.trouble}` : ''}
          </p>
          <ul className="mt-1 text-sm">
            {found.data.entries.map((one) => (
              <Entry
                key={one.key}
                entry={one}
                linked={linked.has(one.key)}
                busy={linking.isPending}
                onLink={() => linking.mutate(one.key)}
              />
            ))}
          </ul>
        </div>
      ) : null}
    </div>
  );
}

/** By which words, and whether that found something. */
function lookedFor(asked: string[], entries: number): string {
  if (asked.length === 0) {
    return 'The group names nothing that could be looked for; type words of your own.';
  }
  const words = asked.map((word) => `“${word}”`).join(', ');
  return entries === 0
    ? `Nothing found by ${words}; try other words.`
    : `The likest first, looked for by ${words}`;
}

function Entry(props: { entry: TrackerEntry; linked: boolean; busy: boolean; onLink: () => void }) {
  const { entry } = props;
  return (
    <li className="flex items-center gap-3 border-b border-base-300/70 py-1.5 last:border-0">
      <span
        className="w-10 shrink-0 text-right text-quiet tabular-nums"
        title="How like it is to the group"
      >
        {Math.round(entry.likeness * 100)} %
      </span>
      <span className="min-w-0 grow">
        <span className="flex min-w-0 items-center gap-1.5">
          <Standing ticket={{ open: entry.open, mismatch: null }} />
          {entry.link ? (
            <a
              href={entry.link}
              target="_blank"
              rel="noreferrer"
              className="link-hover shrink-0 font-mono text-[12px]"
            >
              {entry.key}
            </a>
          ) : (
            <span className="shrink-0 font-mono text-[12px]">{entry.key}</span>
          )}
          <span className="min-w-0 truncate" title={entry.title}>
            {entry.title}
          </span>
        </span>
        <span className="block truncate text-[13px] text-quiet">
          {entry.state}
          {entry.words.length > 0 ? ` · both say ${entry.words.join(', ')}` : ''}
        </span>
      </span>
      {props.linked ? (
        <span className="shrink-0 text-quiet">linked</span>
      ) : (
        <button
          type="button"
          className="btn btn-sm shrink-0"
          disabled={props.busy}
          aria-label={`Link ${entry.key}`}
          onClick={props.onLink}
        >
          Link
        </button>
      )}
    </li>
  );
}
