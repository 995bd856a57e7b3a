import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { plural } from '../../../shared/lib/format';
import { useKeys } from '../../../shared/lib/keys';
import { runKeys } from '../../../shared/runs/keys';
import {
  type Category,
  decide,
  type GroupInRun,
  triageKeys,
  undo,
} from '../../../shared/triage/api';
import { AskTwice } from '../../../shared/ui/AskTwice';
import { Wrong } from '../../../shared/ui/Form';
import type { Run } from '../api';
import { choices } from './model';

/** Explains the chosen group: a digit or a button for its category, a comment, and back again. */
export function DecideBar(props: {
  project: string;
  run: Run;
  group: GroupInRun;
  categories: Category[] | undefined;
  mayEdit: boolean;
  onResults: () => void;
  onDecided: () => void;
}) {
  const { project, run, group } = props;
  const client = useQueryClient();
  const [comment, setComment] = useState('');
  const field = useRef<HTMLInputElement>(null);
  const changed = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: triageKeys.groups(project) }),
      // Lists that are filtered by category.
      client.invalidateQueries({ queryKey: runKeys.results(project) }),
    ]);
  const deciding = useMutation({
    mutationFn: (category: string) =>
      decide(project, run.id, group.first, category, comment.trim()),
    onSuccess: () => {
      setComment('');
      props.onDecided();
      return changed();
    },
  });
  const undoing = useMutation({
    mutationFn: (decision: number) => undo(project, decision),
    onSuccess: changed,
  });
  const busy = deciding.isPending || undoing.isPending;
  const offered = choices(props.categories);
  const said = group.said;
  useKeys((event) => {
    if (!props.mayEdit || busy) {
      return;
    }
    const wanted = offered.find((one) => one.digit === event.key);
    if (wanted) {
      event.preventDefault();
      deciding.mutate(wanted.name);
    } else if (event.key === 'c') {
      event.preventDefault();
      field.current?.focus();
    } else if (event.key === 'u' && said?.origin === 'hand') {
      event.preventDefault();
      undoing.mutate(said.decision);
    }
  });
  return (
    <div className="shrink-0 space-y-2 border-t border-base-300 bg-base-200/60 px-4 py-3">
      <p className="flex items-baseline justify-between gap-3 text-[13px]">
        <span className="text-quiet">
          {props.mayEdit
            ? 'This group is, from this run on, a'
            : 'You may read here; an owner of the project can let you decide.'}
        </span>
        <button type="button" className="link" onClick={props.onResults}>
          {plural(group.results, 'result')} of it
        </button>
      </p>
      {props.mayEdit ? (
        <>
          <div className="flex flex-wrap gap-1.5">
            {offered.map((one) => (
              <button
                key={one.digit}
                type="button"
                disabled={busy}
                aria-keyshortcuts={one.digit}
                aria-pressed={said?.category === one.name}
                onClick={() => deciding.mutate(one.name)}
                className={`btn btn-sm gap-1.5 font-normal ${
                  said?.category === one.name ? 'btn-neutral' : 'bg-base-100'
                }`}
              >
                <kbd className="kbd kbd-xs text-base-content">{one.digit}</kbd> {one.name}
              </button>
            ))}
            {said?.origin === 'hand' ? (
              <button
                type="button"
                disabled={busy}
                aria-keyshortcuts="u"
                onClick={() => undoing.mutate(said.decision)}
                className="btn btn-ghost btn-sm gap-1.5 font-normal"
              >
                <kbd className="kbd kbd-xs">u</kbd> Undo
              </button>
            ) : said ? (
              <AskTwice
                label="Undo"
                really="In all runs that it was carried to"
                disabled={busy}
                onYes={() => undoing.mutate(said.decision)}
              />
            ) : null}
          </div>
          <input
            ref={field}
            className="input input-sm w-full"
            placeholder="Comment ( c ), then a category"
            aria-label="Comment"
            maxLength={20_000}
            value={comment}
            onChange={(e) => setComment(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Escape' || e.key === 'Enter') {
                e.currentTarget.blur();
              }
            }}
          />
          <Wrong error={deciding.error ?? undoing.error} />
        </>
      ) : null}
    </div>
  );
}
