import { Funnel, Group, ListTree, Rows3, X } from 'lucide-react';
import { type ReactNode, useRef, useState } from 'react';
import { FilterBox } from '../../../shared/filter/FilterBox';
import { count, plural } from '../../../shared/lib/format';
import { useKey } from '../../../shared/lib/keys';
import { usePausedText } from '../../../shared/lib/paused';
import { OUTCOMES, type Outcome, OutcomeGlyph } from '../../../shared/ui/OutcomeGlyph';
import type { Counts } from '../api';
import { COUNT_FIELDS, type RunSearch } from '../model';
import { type Quick, readQuick } from './quick';

type View = RunSearch['view'];

/** Which results are listed: by outcome, change and text, or by any filter; as list or as suites. */
export function FilterBar(props: {
  project: string;
  counts: Counts;
  filter: string;
  view: View;
  onQuick: (next: Partial<Quick>) => void;
  onFilter: (filter: string) => void;
  onView: (view: View) => void;
}) {
  const { counts, view, onQuick } = props;
  const quick = readQuick(props.filter);
  const [wanted, setWanted] = useState(false);
  const written = wanted || quick.rest.length > 0;
  const toggle = (outcome: Outcome) =>
    onQuick({
      setUps: false,
      outcomes: quick.outcomes.includes(outcome)
        ? quick.outcomes.filter((o) => o !== outcome)
        : [...quick.outcomes, outcome],
    });
  const suites = view === 'suites';
  const groups = view === 'groups';
  const failing = counts.failed + counts.errored + counts.setUps;
  return (
    <div className="shrink-0 space-y-2 border-b border-base-300 px-4 py-2.5">
      <div className="flex flex-wrap items-center gap-1">
        <TextFilter text={quick.text} onChange={(text) => onQuick({ text })} />
        {quick.rest.length > 0 ? null : (
          <button
            type="button"
            className="btn btn-sm btn-ghost ml-1 gap-1 font-normal"
            aria-expanded={written}
            onClick={() => setWanted(!wanted)}
          >
            <Funnel size={15} aria-hidden /> Filter
          </button>
        )}
        <button
          type="button"
          className="btn btn-sm btn-ghost gap-1 font-normal"
          aria-pressed={suites}
          onClick={() => props.onView(suites ? undefined : 'suites')}
        >
          {suites ? <Rows3 size={15} aria-hidden /> : <ListTree size={15} aria-hidden />}
          {suites ? 'List' : 'Suites'}
        </button>
        {failing > 0 || groups ? (
          <button
            type="button"
            className={`btn btn-sm gap-1 font-normal ${groups ? 'btn-neutral' : 'btn-ghost'}`}
            aria-pressed={groups}
            onClick={() => props.onView(groups ? undefined : 'groups')}
          >
            <Group size={15} aria-hidden /> Groups
          </button>
        ) : null}
      </div>
      {written ? (
        <FilterBox
          project={props.project}
          of="result"
          filter={props.filter}
          onChange={props.onFilter}
          placeholder={'duration gt 2 and tag eq "smoke"'}
          focused={wanted}
        />
      ) : null}
      <div className="flex flex-wrap items-center gap-1">
        {counts.setUps > 0 ? (
          <Chip
            pressed={quick.setUps}
            onClick={() => onQuick({ setUps: !quick.setUps, outcomes: [] })}
          >
            <OutcomeGlyph outcome="errored" size={12} />
            {plural(counts.setUps, 'set-up')} failed
          </Chip>
        ) : null}
        {OUTCOMES.filter((outcome) => counts[COUNT_FIELDS[outcome]] > 0).map((outcome) => (
          <Chip
            key={outcome}
            pressed={quick.outcomes.includes(outcome)}
            onClick={() => toggle(outcome)}
          >
            <OutcomeGlyph outcome={outcome} size={12} />
            {count(counts[COUNT_FIELDS[outcome]])} {outcome}
          </Chip>
        ))}
        {quick.overruled ? (
          <Leave word="overruled" onClick={() => onQuick({ overruled: false })} />
        ) : null}
        {quick.change ? (
          <Leave word={quick.change} onClick={() => onQuick({ change: undefined })} />
        ) : null}
        {view === 'gone' ? <Leave word="gone" onClick={() => props.onView(undefined)} /> : null}
      </div>
    </div>
  );
}

function Chip(props: { pressed: boolean; onClick: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-pressed={props.pressed}
      onClick={props.onClick}
      className={`btn btn-xs gap-1 font-normal tabular-nums ${
        props.pressed ? 'btn-neutral' : 'btn-ghost'
      }`}
    >
      {props.children}
    </button>
  );
}

/** Something that was chosen elsewhere, and how to leave it. */
function Leave({ word, onClick }: { word: string; onClick: () => void }) {
  return (
    <button type="button" className="btn btn-neutral btn-xs gap-1 font-normal" onClick={onClick}>
      {word} <X size={12} aria-label="Show all again" />
    </button>
  );
}

/** Waits for a pause in the typing before it asks. */
function TextFilter({ text, onChange }: { text: string; onChange: (text: string) => void }) {
  const [typed, setTyped] = usePausedText(text, onChange);
  const field = useRef<HTMLInputElement>(null);
  useKey('/', () => field.current?.focus());
  return (
    <input
      ref={field}
      type="search"
      className="input input-sm w-44 grow"
      placeholder="Filter by name, suite or message  ( / )"
      aria-label="Filter by name, suite or message"
      value={typed}
      onChange={(e) => setTyped(e.target.value)}
    />
  );
}
