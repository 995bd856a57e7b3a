import { ListTree, Rows3, X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { count, plural } from '../../../shared/lib/format';
import { isTyping } from '../../../shared/lib/keys';
import { OUTCOMES, type Outcome, OutcomeGlyph } from '../../../shared/ui/OutcomeGlyph';
import type { Counts } from '../api';
import { COUNT_FIELDS, type RunSearch } from '../model';

/** Which results are listed: by outcome, by change, by text, as list or as suites. */
export function FilterBar(props: {
  counts: Counts;
  search: RunSearch;
  onChange: (next: Partial<RunSearch>) => void;
}) {
  const { counts, search, onChange } = props;
  const chosen = search.outcome ?? [];
  const toggle = (outcome: Outcome) =>
    onChange({
      setUps: undefined,
      outcome: chosen.includes(outcome)
        ? chosen.filter((o) => o !== outcome)
        : [...chosen, outcome],
    });
  const suites = search.view === 'suites';
  return (
    <div className="shrink-0 space-y-2 border-b border-base-300 px-4 py-2.5">
      <div className="flex items-center gap-2">
        <TextFilter text={search.text ?? ''} onChange={(text) => onChange({ text })} />
        <button
          type="button"
          className="btn btn-sm btn-ghost gap-1 font-normal"
          aria-pressed={suites}
          onClick={() => onChange({ view: suites ? undefined : 'suites' })}
        >
          {suites ? <Rows3 size={15} aria-hidden /> : <ListTree size={15} aria-hidden />}
          {suites ? 'List' : 'Suites'}
        </button>
      </div>
      <div className="flex flex-wrap items-center gap-1">
        {counts.setUps > 0 ? (
          <button
            type="button"
            aria-pressed={search.setUps ?? false}
            onClick={() => onChange({ setUps: search.setUps ? undefined : true, outcome: [] })}
            className={`btn btn-xs gap-1 font-normal tabular-nums ${
              search.setUps ? 'btn-neutral' : 'btn-ghost'
            }`}
          >
            <OutcomeGlyph outcome="errored" size={12} />
            {plural(counts.setUps, 'set-up')} failed
          </button>
        ) : null}
        {OUTCOMES.filter((outcome) => counts[COUNT_FIELDS[outcome]] > 0).map((outcome) => (
          <button
            key={outcome}
            type="button"
            aria-pressed={chosen.includes(outcome)}
            onClick={() => toggle(outcome)}
            className={`btn btn-xs gap-1 font-normal tabular-nums ${
              chosen.includes(outcome) ? 'btn-neutral' : 'btn-ghost'
            }`}
          >
            <OutcomeGlyph outcome={outcome} size={12} />
            {count(counts[COUNT_FIELDS[outcome]])} {outcome}
          </button>
        ))}
        {search.overruled ? (
          <button
            type="button"
            className="btn btn-neutral btn-xs gap-1 font-normal"
            onClick={() => onChange({ overruled: undefined })}
          >
            overruled <X size={12} aria-label="Show all again" />
          </button>
        ) : null}
        {search.change ? (
          <button
            type="button"
            className="btn btn-neutral btn-xs gap-1 font-normal"
            onClick={() => onChange({ change: undefined })}
          >
            {search.change} <X size={12} aria-label="Show all again" />
          </button>
        ) : null}
      </div>
    </div>
  );
}

const PAUSE_MS = 250;

/** Waits for a pause in the typing before it asks. */
function TextFilter({ text, onChange }: { text: string; onChange: (text: string) => void }) {
  const [typed, setTyped] = useState(text);
  const [sent, setSent] = useState(text);
  const [seen, setSeen] = useState(text);
  const field = useRef<HTMLInputElement>(null);
  if (text !== seen) {
    setSeen(text);
    if (text !== sent) {
      // Changed from outside, as by a link; what was typed before has no say any more.
      setTyped(text);
    }
  }
  useEffect(() => {
    if (typed === text) {
      return;
    }
    const timer = setTimeout(() => {
      setSent(typed);
      onChange(typed);
    }, PAUSE_MS);
    return () => clearTimeout(timer);
  }, [typed, text, onChange]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === '/' && !isTyping(event)) {
        event.preventDefault();
        field.current?.focus();
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  return (
    <input
      ref={field}
      type="search"
      className="input input-sm grow"
      placeholder="Filter by name, suite or message  ( / )"
      aria-label="Filter by name, suite or message"
      value={typed}
      onChange={(e) => setTyped(e.target.value)}
    />
  );
}
