import { useQuery } from '@tanstack/react-query';
import { useEffect, useId, useLayoutEffect, useRef, useState } from 'react';
import { type FilterHelp, type FilterThing, filterHelpQuery } from './api';

const PAUSE_MS = 150;
const APPLY_MS = 700;

/** A filter as a text, with help while it is written. What makes sense is applied after a pause. */
export function FilterBox(props: {
  project: string;
  of: FilterThing;
  filter: string;
  onChange: (filter: string) => void;
  placeholder: string;
  /** Whether somebody opened it to write at once. */
  focused?: boolean;
}) {
  const { filter, onChange } = props;
  const [draft, setDraft] = useState(filter);
  const [sent, setSent] = useState(filter);
  const [seen, setSeen] = useState(filter);
  const [cursor, setCursor] = useState(filter.length);
  const [open, setOpen] = useState(false);
  const [active, setActive] = useState(-1);
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
    enabled: open || draft !== '',
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
    if (text.trim() === '') {
      apply('');
    }
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
    <div className="relative">
      <textarea
        ref={field}
        rows={Math.min(5, 1 + Math.floor(draft.length / 60))}
        className="textarea textarea-sm min-h-8 w-full resize-none font-mono text-[13px] leading-snug"
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
        onBlur={() => setOpen(false)}
      />
      {proposals.length > 0 && current ? (
        <Proposals
          id={id}
          proposals={proposals}
          active={active}
          onChoose={(text) => accept(text, current.from, current.to)}
        />
      ) : null}
      <div id={`${id}-fault`}>
        {current?.fault && !writing ? <Fault text={draft} fault={current.fault} /> : null}
        {help.error ? (
          <p role="alert" className="mt-1.5 text-sm text-error">
            No help while you write: {help.error.message} Enter asks for it as it is.
          </p>
        ) : null}
      </div>
    </div>
  );
}

function Proposals(props: {
  id: string;
  proposals: FilterHelp['proposals'];
  active: number;
  onChoose: (text: string) => void;
}) {
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    list.current?.children[props.active]?.scrollIntoView?.({ block: 'nearest' });
  }, [props.active]);
  return (
    <div
      ref={list}
      id={`${props.id}-list`}
      role="listbox"
      aria-label="What could stand here"
      className="absolute inset-x-0 top-full z-20 mt-1 max-h-72 overflow-y-auto rounded-box border border-base-300 bg-base-100 py-1 shadow-lg"
    >
      {props.proposals.map((one, i) => (
        // biome-ignore lint/a11y/useKeyWithClickEvents: the keys are those of the field
        <div
          key={one.text}
          id={`${props.id}-${i}`}
          role="option"
          tabIndex={-1}
          aria-selected={i === props.active}
          onMouseDown={(e) => e.preventDefault()}
          onClick={() => props.onChoose(one.text)}
          className={`flex cursor-pointer items-baseline gap-4 px-3 py-1 ${
            i === props.active ? 'bg-base-200' : 'hover:bg-base-200'
          }`}
        >
          <code className="min-w-36 shrink-0 truncate">{one.text.trim()}</code>
          <span className="min-w-0 truncate text-sm text-quiet">{one.meaning}</span>
        </div>
      ))}
    </div>
  );
}

/** What is wrong, with the word that it is about. */
function Fault({ text, fault }: { text: string; fault: { position: number; text: string } }) {
  const before = text.slice(Math.max(0, fault.position - 24), fault.position);
  const word = /^("(?:[^"\\]|\\.)*"?|\S*)/.exec(text.slice(fault.position))?.[0] ?? '';
  return (
    <p role="alert" className="mt-1.5 text-sm text-error">
      <code className="mr-2 text-base-content">
        {fault.position > 24 ? '…' : ''}
        {before}
        <mark className="bg-error/20 text-error underline decoration-wavy">{word || '⌃'}</mark>
      </code>
      <span className="first-letter:uppercase">{fault.text}</span>
    </p>
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
