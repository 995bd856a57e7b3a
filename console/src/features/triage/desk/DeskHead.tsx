import { Funnel } from 'lucide-react';
import { useState } from 'react';
import { count, plural } from '../../../shared/lib/format';
import type { Desk } from '../../../shared/triage/api';
import {
  type DeskSearch,
  SHOWS,
  type Show,
  SPANS,
  type Span,
  savedWords,
  spanWords,
} from '../model';
import { TriageNav } from '../TriageNav';
import { DeskFilter } from './DeskFilter';

/** What is left to sort, what is done, and which groups are shown. */
export function DeskHead(props: {
  project: string;
  show: Show;
  span: Span;
  sums: Desk['sums'];
  filter: string | undefined;
  onChange: (next: Partial<DeskSearch>) => void;
}) {
  const { show, span, sums } = props;
  const { explained, decisions } = savedWords(sums);
  const [wanted, setWanted] = useState(false);
  const filtered = wanted || props.filter !== undefined;
  return (
    <header className="shrink-0 px-5 pt-4">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="font-serif text-2xl">Triage</h1>
        <TriageNav project={props.project} />
        <p role="status" className="text-[15px]">
          <span className={sums.unsorted > 0 ? 'font-semibold text-failed' : 'font-semibold'}>
            {sums.unsorted === 0 ? 'Nothing to sort' : `${plural(sums.unsorted, 'group')} to sort`}
          </span>
          <span className="text-quiet">
            {sums.results === 0
              ? ', no failures at all'
              : ` · ${count(explained)} of ${plural(sums.results, 'failure')} explained${
                  explained > 0 ? ` by ${by(decisions, sums.rules)}` : ''
                }`}
            {sums.grouping > 0 ? ` · ${plural(sums.grouping, 'run')} still being grouped` : ''}
          </span>
        </p>
        <label className="ml-auto flex items-baseline gap-2 text-sm">
          <span className="text-quiet">seen in</span>
          <select
            className="select select-sm w-auto"
            value={span}
            onChange={(e) => props.onChange({ days: asSpan(e.target.value), group: undefined })}
          >
            {SPANS.map((one) => (
              <option key={one} value={one}>
                {spanWords(one)}
              </option>
            ))}
          </select>
        </label>
      </div>
      <div className="mt-2 flex gap-1">
        {SHOWS.map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={one === show}
            onClick={() => props.onChange({ show: one, group: undefined })}
            className={`border-b-2 px-3 py-1.5 first-letter:uppercase ${
              one === show
                ? 'border-primary font-semibold text-primary'
                : 'border-transparent hover:bg-base-200'
            }`}
          >
            {one === 'tickets'
              ? 'Tickets that do not fit'
              : one.charAt(0).toUpperCase() + one.slice(1)}
            <Many n={howMany(one, sums)} />
          </button>
        ))}
        <button
          type="button"
          className="btn btn-ghost btn-sm ml-2 gap-1 self-center font-normal"
          aria-expanded={filtered}
          onClick={() => {
            setWanted(!filtered);
            if (props.filter !== undefined) props.onChange({ filter: undefined });
          }}
        >
          <Funnel size={15} aria-hidden /> {filtered ? 'No filter' : 'Filter'}
        </button>
        {sums.older > 0 && show === 'unsorted' && span !== 0 ? (
          <button
            type="button"
            className="link ml-auto self-center text-sm text-quiet"
            onClick={() => props.onChange({ days: 0 })}
          >
            {plural(sums.older, 'older one')}
          </button>
        ) : null}
      </div>
      {filtered ? (
        <div className="max-w-3xl py-2">
          <DeskFilter
            project={props.project}
            filter={props.filter ?? ''}
            focused={wanted}
            onChange={props.onChange}
          />
        </div>
      ) : null}
    </header>
  );
}

/** As in “by 12 decisions and 1 rule”. */
function by(decisions: number, rules: number): string {
  const parts = [
    ...(decisions > 0 || rules === 0 ? [plural(decisions, 'decision')] : []),
    ...(rules > 0 ? [plural(rules, 'rule')] : []),
  ];
  return parts.join(' and ');
}

function Many({ n }: { n: number | undefined }) {
  return n ? <span className="ml-1.5 text-sm text-quiet tabular-nums">{count(n)}</span> : null;
}

function howMany(show: Show, sums: Desk['sums']): number | undefined {
  switch (show) {
    case 'unsorted':
      return sums.unsorted;
    case 'returned':
      return sums.returned;
    case 'mine':
      return sums.mine;
    default:
      return undefined;
  }
}

function asSpan(value: string): Span {
  return SPANS.find((one) => String(one) === value) ?? 7;
}
