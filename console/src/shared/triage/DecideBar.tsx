import { type ReactNode, useRef, useState } from 'react';
import { useKeys } from '../lib/keys';
import { AskTwice } from '../ui/AskTwice';
import { Wrong } from '../ui/Form';
import type { Category, Said } from './api';
import { choices } from './choices';

/** What was typed and not yet decided, by the group: it waits while another one is looked at. */
const drafts = new Map<number, string>();

/** Explains a group: a digit or a button for its category, a comment, and back again. */
export function DecideBar(props: {
  group: number;
  /** What a choice would say. */
  lead: string;
  /** Beside that. */
  beside?: ReactNode;
  categories: Category[] | undefined;
  mayEdit: boolean;
  said: Said | null;
  /** Whether taking it back is asked for once more. */
  asksTwice: boolean;
  busy: boolean;
  error: Error | null;
  onDecide: (category: string, comment: string) => Promise<unknown>;
  onUndo: (decision: number) => void;
  /** Beside the comment. */
  besideComment?: ReactNode;
  /** Further things that can be done. */
  children?: ReactNode;
}) {
  const { group, said, busy } = props;
  const [comment, setComment] = useState(drafts.get(group) ?? '');
  const field = useRef<HTMLInputElement>(null);
  const offered = choices(props.categories);
  const write = (text: string) => {
    setComment(text);
    drafts.set(group, text);
  };
  const decide = (category: string) =>
    props.onDecide(category, comment.trim()).then(
      () => write(''),
      // It is told beside the buttons, and what was typed stays.
      () => undefined,
    );
  useKeys((event) => {
    if (!props.mayEdit || busy || event.repeat) {
      return;
    }
    const wanted = offered.find((one) => one.digit === event.key);
    if (wanted) {
      event.preventDefault();
      void decide(wanted.name);
    } else if (event.key === 'c') {
      event.preventDefault();
      field.current?.focus();
    } else if (event.key === 'u' && said && !props.asksTwice) {
      event.preventDefault();
      props.onUndo(said.decision);
    }
  });
  return (
    <div className="space-y-2">
      <p className="flex items-baseline justify-between gap-3 text-[13px]">
        <span className="text-quiet">
          {props.mayEdit
            ? props.lead
            : 'You may read here; an owner of the project can let you decide.'}
        </span>
        {props.beside}
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
                onClick={() => void decide(one.name)}
                className={`btn btn-sm gap-1 px-1.5 font-normal ${
                  said?.category === one.name ? 'btn-neutral' : 'bg-base-100'
                }`}
              >
                <kbd className="kbd kbd-xs text-base-content">{one.digit}</kbd> {one.name}
              </button>
            ))}
            {said && !props.asksTwice ? (
              <button
                type="button"
                disabled={busy}
                aria-keyshortcuts="u"
                onClick={() => props.onUndo(said.decision)}
                className="btn btn-ghost btn-sm gap-1 px-1.5 font-normal"
              >
                <kbd className="kbd kbd-xs">u</kbd> Undo
              </button>
            ) : said ? (
              <AskTwice
                label="Undo"
                really="In all runs that it was carried to"
                disabled={busy}
                onYes={() => props.onUndo(said.decision)}
              />
            ) : null}
            {props.children}
          </div>
          <div className="flex gap-2">
            <input
              ref={field}
              className="input input-sm min-w-0 grow"
              placeholder="Comment ( c ), then a category"
              aria-label="Comment"
              maxLength={20_000}
              value={comment}
              onChange={(e) => write(e.target.value)}
              onKeyDown={(e) => {
                if (e.key === 'Escape' || e.key === 'Enter') {
                  e.currentTarget.blur();
                }
              }}
            />
            {props.besideComment}
          </div>
          <Wrong error={props.error} />
        </>
      ) : null}
    </div>
  );
}
