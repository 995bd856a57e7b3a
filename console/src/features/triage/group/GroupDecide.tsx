import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { plural } from '../../../shared/lib/format';
import { useKeys } from '../../../shared/lib/keys';
import { sessionQuery } from '../../../shared/session/api';
import { useMayEdit } from '../../../shared/session/may';
import {
  acceptFor,
  assignGroup,
  type Category,
  decideGroup,
  endOf,
  type Group,
  mendGroup,
  type Suggestion,
  undo,
  useDecided,
  useSaid,
} from '../../../shared/triage/api';
import { DecideBar } from '../../../shared/triage/DecideBar';
import { EndWords, isPast } from '../../../shared/triage/EndWords';
import { saidBy } from '../../../shared/triage/saidBy';
import { SuggestionLine } from './SuggestionLine';

/** Explains a whole group; says that it is mended; takes it, or gives it back. */
export function GroupDecide(props: {
  project: string;
  line: Group;
  categories: Category[] | undefined;
  /** Groups that were marked: what is decided is decided of them, and not of this one. */
  marked: Group[];
  /** Marks this one, or not any more. */
  onMark: () => void;
  /** What is likely to explain it, once that is known. */
  suggestion: Suggestion | undefined;
  onGroup: (group: number) => void;
  onDecided: () => void;
  /** To the next one that nobody explained; undefined when there is none. */
  onNext: (() => void) | undefined;
}) {
  const { project, line, marked } = props;
  const mayEdit = useMayEdit(project);
  const [until, setUntil] = useState('');
  const [untilClosed, setUntilClosed] = useState(false);
  const ofTickets = marked.length === 0 && line.tickets.some((one) => one.open !== false);
  const session = useQuery(sessionQuery);
  const me = session.data?.login;
  const decided = useDecided(project);
  const say = useSaid(project);
  const deciding = useMutation({
    mutationFn: async (choice: { category: string; comment: string }) => {
      const groups = marked.length > 0 ? marked.map((one) => one.group) : [line.group];
      // One after the other; the first that cannot be explained ends it.
      for (const group of groups) {
        const ends = { until, untilClosed: untilClosed && ofTickets };
        const { id } = await decideGroup(project, group, { ...choice, ...ends });
        const { category, comment } = choice;
        const said = { decision: id, category, comment, origin: 'hand', by: me ?? '' };
        say(group, said, endOf(until), ends.untilClosed);
      }
    },
    // Of several, some may be explained when one is not.
    onError: decided,
    onSuccess: () => {
      setUntil('');
      setUntilClosed(false);
      props.onDecided();
      decided();
    },
  });
  const accepting = useMutation({
    mutationFn: (decision: number) => acceptFor(project, line.group, decision),
    onSuccess: () => {
      props.onDecided();
      decided();
    },
  });
  const undoing = useMutation({
    mutationFn: (decision: number) => undo(project, decision),
    onSuccess: decided,
  });
  const mending = useMutation({
    mutationFn: () => mendGroup(project, line.group),
    onSuccess: decided,
  });
  const assigning = useMutation({
    mutationFn: (to: string | null) => assignGroup(project, line.group, to),
    onSuccess: decided,
  });
  const all = [deciding, accepting, undoing, mending, assigning];
  const busy = all.some((one) => one.isPending);
  const suggestion = line.open > 0 && marked.length === 0 ? props.suggestion : undefined;
  const suggested = suggestion?.like.said?.decision;
  const mine = me !== undefined && line.assigned === me;
  // What a rule said has no end: it is taken back, and the rule leaves the group alone.
  const goesOn = line.said !== null && !isPast(line.ends) && line.said.origin !== 'rule';
  const assign = () => me !== undefined && assigning.mutate(mine ? null : me);
  useKeys((event) => {
    if (!mayEdit || busy || event.repeat) {
      return;
    }
    if (event.key === 'm' && goesOn) {
      event.preventDefault();
      mending.mutate();
    } else if (event.key === 'y' && suggested !== undefined) {
      event.preventDefault();
      accepting.mutate(suggested);
    } else if (event.key === 'a') {
      event.preventDefault();
      assign();
    }
  });
  return (
    <>
      {suggestion && mayEdit ? (
        <SuggestionLine
          suggestion={suggestion}
          categories={props.categories}
          busy={busy}
          onGroup={props.onGroup}
          onAccept={(decision) => accepting.mutate(decision)}
        />
      ) : null}
      <DecideBar
        group={line.group}
        lead={lead(line, marked)}
        beside={
          <span className="flex min-w-0 items-center gap-2">
            <State line={line} />
            {line.said && line.open === 0 && props.onNext ? (
              <button
                type="button"
                aria-keyshortcuts="n"
                onClick={props.onNext}
                className="btn btn-ghost btn-xs gap-1 px-1.5 font-normal"
              >
                <kbd className="kbd kbd-xs">n</kbd> Next
              </button>
            ) : null}
          </span>
        }
        categories={props.categories}
        mayEdit={mayEdit}
        said={line.said}
        asksTwice={line.said !== null && line.said.by !== me}
        busy={busy}
        error={all.find((one) => one.error)?.error ?? null}
        besideComment={
          <>
            <label
              className="flex shrink-0 items-center gap-2 text-[13px] text-quiet"
              title="Runs that begin on that day or later ask again"
            >
              until
              <input
                type="date"
                className="input input-sm w-36"
                min={tomorrow()}
                value={until}
                onChange={(e) => setUntil(e.target.value)}
              />
            </label>
            {ofTickets ? (
              <label
                className="flex shrink-0 items-center gap-2 text-[13px] text-quiet"
                title="When all tickets of the group are closed, what fails after that asks again"
              >
                or
                <input
                  type="checkbox"
                  aria-label="until its tickets are closed"
                  className="checkbox checkbox-sm"
                  checked={untilClosed}
                  onChange={(e) => setUntilClosed(e.target.checked)}
                />
                its tickets are closed
              </label>
            ) : null}
          </>
        }
        onDecide={(category, comment) => deciding.mutateAsync({ category, comment })}
        onUndo={(decision) => undoing.mutate(decision)}
      >
        {goesOn ? (
          <button
            type="button"
            disabled={busy}
            aria-keyshortcuts="m"
            title="Should it fail again, it asks again"
            onClick={() => mending.mutate()}
            className="btn btn-ghost btn-sm gap-1 px-1.5 font-normal"
          >
            <kbd className="kbd kbd-xs">m</kbd> Mended
          </button>
        ) : null}
        <button
          type="button"
          disabled={busy || me === undefined}
          aria-keyshortcuts="a"
          onClick={assign}
          className="btn btn-ghost btn-sm gap-1 px-1.5 font-normal"
        >
          <kbd className="kbd kbd-xs">a</kbd> {mine ? 'Give back' : 'Take it'}
        </button>
        <button
          type="button"
          aria-keyshortcuts="x"
          aria-pressed={marked.some((one) => one.group === line.group)}
          title="To explain several at once, or put them together"
          onClick={props.onMark}
          className="btn btn-ghost btn-sm gap-1 px-1.5 font-normal"
        >
          <kbd className="kbd kbd-xs">x</kbd> Mark
        </button>
      </DecideBar>
    </>
  );
}

/** Who looks after it, and what became of what was decided. */
function State({ line }: { line: Group }) {
  return (
    <span className="min-w-0 truncate text-right">
      {isPast(line.ends) ? (
        <span className={line.returned ? 'text-errored' : 'text-quiet'}>
          <EndWords ends={line.ends} endedBy={line.endedBy} />
          {line.returned ? ', and back' : ''}
        </span>
      ) : line.said ? (
        <span className="text-quiet" title={line.said.comment ?? undefined}>
          {saidBy(line.said)}
          {line.ends || line.untilClosed ? ' ' : ''}
          <EndWords ends={line.ends} endedBy={line.endedBy} untilClosed={line.untilClosed} />
          {line.said.comment ? ` · ${line.said.comment}` : ''}
        </span>
      ) : null}
      {line.assigned ? (
        <span className="ml-2 font-semibold">{line.assigned} looks at it</span>
      ) : null}
    </span>
  );
}

/** What a choice would say. */
function lead(line: Group, marked: Group[]): string {
  if (marked.length > 0) {
    const which = marked.length === 1 ? 'the marked group' : `${marked.length} marked groups`;
    const open = marked.reduce((sum, one) => sum + one.open, 0);
    return `Explain ${which}, ${plural(open, 'result')}, and what comes: this is a`;
  }
  return line.open > 0
    ? `Explain ${plural(line.open, 'result')} and what comes: this is a`
    : 'This is a';
}

/** As a field for days writes it. */
function tomorrow(): string {
  const day = new Date(Date.now() + 86_400_000);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}`;
}
