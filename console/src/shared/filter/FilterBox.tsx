import { useQuery } from '@tanstack/react-query';
import { Bookmark, ListTree } from 'lucide-react';
import { useEffect, useId, useLayoutEffect, useRef, useState } from 'react';
import { createPortal } from 'react-dom';
import { count } from '../lib/format';
import { catalogueQuery, type FilterThing, filterCountQuery, filterHelpQuery } from './api';
import { Fault, Proposals } from './FilterHelp';
import { FilterTree } from './FilterTree';
import { SavedDialog } from './SavedDialog';
import { type Tree, write as written } from './tree';

const PAUSE_MS = 150;
const APPLY_MS = 700;

/**
 * A filter as a text, with help while it is written, and as a tree; each follows the other. What
 * makes sense is applied after a pause.
 */
export function FilterBox(props: {
  project: string;
  of: FilterThing;
  filter: string;
  onChange: (filter: string) => void;
  placeholder: string;
  /** Whether somebody opened it to write at once. */
  focused?: boolean;
  /** Whether saved filters cannot be named, as in what has to stand for itself. */
  plain?: boolean;
  /** Whether all that is written is told at once, for a form that says itself what is wrong. */
  exact?: boolean;
}) {
  const { filter, onChange } = props;
  const [draft, setDraft] = useState(filter);
  const [sent, setSent] = useState(filter);
  const [seen, setSeen] = useState(filter);
  const [cursor, setCursor] = useState(filter.length);
  const [open, setOpen] = useState(false);
  const [active, setActive] = useState(-1);
  const [built, setBuilt] = useState(false);
  const [saving, setSaving] = useState(false);
  // What was made by hand of the tree stays as it was made; any other text makes a new one.
  const [tree, setTree] = useState<{ of: string; tree: Tree | null }>();
  const field = useRef<HTMLTextAreaElement>(null);
  const caret = useRef<number | undefined>(props.focused ? filter.length : undefined);
  const id = useId();
  if (filter !== seen) {
    setSeen(filter);
    if (filter !== sent) {
      // Changed from outside, as by a quick filter.
      setDraft(filter);
      setCursor(filter.length);
    }
  }
  const asked = useLate({ text: draft, at: cursor });
  const help = useQuery({
    ...filterHelpQuery(props.project, props.of, asked.text, asked.at),
    enabled: open || built || draft !== '',
  });
  const current =
    help.data && !help.isPlaceholderData && asked.text === draft && asked.at === cursor
      ? help.data
      : undefined;
  const proposals = open ? (current?.proposals ?? []) : [];
  const apply = (text: string) => {
    setSent(text);
    onChange(text.trim());
  };
  const fits = current !== undefined && current.fault === null;
  if (current && tree?.of !== draft && (current.tree !== null || draft.trim() === '')) {
    setTree({ of: draft, tree: current.tree });
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: a pause in the typing is what counts
  useEffect(() => {
    if (!fits || draft.trim() === filter) {
      return;
    }
    const timer = setTimeout(() => apply(draft), APPLY_MS);
    return () => clearTimeout(timer);
  }, [fits, draft, filter]);
  const write = (text: string, at: number) => {
    setDraft(text);
    setCursor(at);
    setActive(-1);
    setOpen(true);
    if (props.exact || text.trim() === '') {
      apply(text);
    }
  };
  const build = (next: Tree) => {
    const text = written(next);
    write(text, text.length);
    setTree({ of: text, tree: next });
    setOpen(false);
  };
  const accept = (proposal: string, from: number, to: number) => {
    const after = draft.slice(to);
    const closed = proposal.endsWith('"') || proposal === 'true' || proposal === 'false';
    const word = proposal + (closed && !after.startsWith(' ') ? ' ' : '');
    write(draft.slice(0, from) + word + after, from + word.length);
    caret.current = from + word.length;
  };
  // With the text itself, before anything more can be typed.
  useLayoutEffect(() => {
    if (caret.current !== undefined) {
      field.current?.focus();
      field.current?.setSelectionRange(caret.current, caret.current);
      caret.current = undefined;
    }
  });
  const onKey = (event: React.KeyboardEvent) => {
    const chosen = proposals[active];
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      if (!open) setOpen(true);
      if (proposals.length > 0) {
        event.preventDefault();
        const step = event.key === 'ArrowDown' ? 1 : -1;
        setActive((active + step + proposals.length) % proposals.length);
      }
    } else if (event.key === 'Enter' || (event.key === 'Tab' && chosen)) {
      event.preventDefault();
      if (chosen && current) {
        accept(chosen.text, current.from, current.to);
      } else if (fits || help.error) {
        // Without help the list itself says what is wrong.
        setOpen(false);
        apply(draft);
      }
    } else if (event.key === 'Escape' && open) {
      event.preventDefault();
      setOpen(false);
    }
  };
  // What is being written is not wrong yet.
  const writing = open && current?.fault && current.fault.position >= current.from;
  return (
    <div>
      <div className="flex items-start gap-1">
        <div className="relative grow">
          <textarea
            ref={field}
            rows={Math.min(5, 1 + Math.floor(draft.length / 60))}
            className="textarea textarea-sm min-h-8 w-full resize-none placeholder-shown:overflow-hidden placeholder-shown:text-ellipsis placeholder-shown:whitespace-nowrap font-mono text-[13px] leading-snug"
            aria-label={`Filter of ${props.of}s`}
            aria-haspopup="listbox"
            aria-controls={`${id}-list`}
            aria-autocomplete="list"
            aria-activedescendant={active >= 0 ? `${id}-${active}` : undefined}
            aria-invalid={current?.fault != null && !writing}
            aria-describedby={`${id}-fault`}
            spellCheck={false}
            autoComplete="off"
            placeholder={props.placeholder}
            value={draft}
            onChange={(e) => write(e.target.value.replaceAll('\n', ' '), e.target.selectionStart)}
            onSelect={(e) => setCursor(e.currentTarget.selectionStart)}
            onKeyDown={onKey}
            onFocus={() => setOpen(true)}
            onBlur={() => {
              setOpen(false);
              // Whoever goes on to a button means what stands here.
              if (fits && draft.trim() !== filter) apply(draft);
            }}
          />
          {proposals.length > 0 && current ? (
            <Proposals
              id={id}
              proposals={proposals}
              active={active}
              onChoose={(text) => accept(text, current.from, current.to)}
            />
          ) : null}
        </div>
        <button
          type="button"
          className={`btn btn-square btn-sm ${built ? 'btn-neutral' : 'btn-ghost'}`}
          aria-pressed={built}
          aria-label="As a tree"
          title="As a tree"
          onClick={() => setBuilt(!built)}
        >
          <ListTree size={16} aria-hidden />
        </button>
        {props.plain ? null : (
          <button
            type="button"
            className="btn btn-square btn-ghost btn-sm"
            aria-label="Saved filters"
            title="Saved filters"
            onClick={() => setSaving(true)}
          >
            <Bookmark size={16} aria-hidden />
          </button>
        )}
      </div>
      <div id={`${id}-fault`}>
        {current?.fault && !writing ? <Fault text={draft} fault={current.fault} /> : null}
        {help.error ? (
          <p role="alert" className="mt-1.5 text-sm text-error">
            No help while you write: {help.error.message} Enter asks for it as it is.
          </p>
        ) : null}
      </div>
      {built ? (
        <Builder
          project={props.project}
          of={props.of}
          tree={tree?.of === draft ? tree.tree : undefined}
          filter={fits ? draft.trim() : undefined}
          onChange={build}
        />
      ) : null}
      {saving
        ? // It has a form of its own, which cannot stand in another one.
          createPortal(
            <SavedDialog
              project={props.project}
              of={props.of}
              filter={draft.trim()}
              onChoose={(text) => {
                setSaving(false);
                setDraft(text);
                setCursor(text.length);
                apply(text);
              }}
              onClose={() => setSaving(false)}
            />,
            document.body,
          )
        : null}
    </div>
  );
}

/** The tree, and how much it picks. */
function Builder(props: {
  project: string;
  of: FilterThing;
  /** Nothing while the text cannot be read. */
  tree: Tree | null | undefined;
  /** Nothing while it makes no sense. */
  filter: string | undefined;
  onChange: (tree: Tree) => void;
}) {
  const catalogue = useQuery(catalogueQuery(props.project));
  const [kept, setKept] = useState(props.tree);
  if (props.tree !== undefined && props.tree !== kept) {
    setKept(props.tree);
  }
  const counted = useQuery({
    ...filterCountQuery(props.project, props.of, props.filter ?? ''),
    enabled: props.filter !== undefined,
  });
  if (catalogue.data === undefined) {
    return null;
  }
  return (
    <section
      aria-label="The filter as a tree"
      className="mt-1.5 max-h-[45vh] overflow-y-auto rounded-box border border-base-300 bg-base-100 p-3"
    >
      {kept === undefined ? (
        <p className="text-sm text-quiet">
          The text cannot be read as it stands. Mend it, and its tree is shown here.
        </p>
      ) : (
        <FilterTree
          project={props.project}
          catalogue={catalogue.data}
          of={props.of}
          tree={kept}
          onChange={props.onChange}
        />
      )}
      <p role="status" className="mt-2 min-h-5 text-sm text-quiet">
        {props.filter === undefined || counted.data === undefined
          ? (counted.error?.message ?? '')
          : `${counted.data.all ? '' : 'at least '}${count(counted.data.number)} ${props.of}${
              counted.data.number === 1 ? '' : 's'
            } of the project`}
      </p>
    </section>
  );
}

/** A value once it has not changed for a moment. */
function useLate<T extends { text: string; at: number }>(value: T): T {
  const [late, setLate] = useState(value);
  const { text, at } = value;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the two are all of it
  useEffect(() => {
    const timer = setTimeout(() => setLate(value), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [text, at]);
  return late;
}
