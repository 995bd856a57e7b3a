import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { duration, plural } from '../../../shared/lib/format';
import { asOutcome, OutcomeGlyph } from '../../../shared/ui/OutcomeGlyph';
import { Failed } from '../../../shared/ui/States';
import { type Run, runQuery, type StepBeside, stepsBesideQuery } from '../api';
import type { Pin } from '../model';
import { toldSteps } from './toldSteps';

/** The steps of the chosen result beside those of the pinned one; nothing where neither has any. */
export function StepsBeside(props: {
  project: string;
  run: Run;
  result: string;
  attempt: number;
  pin: Pin;
}) {
  const { project, pin } = props;
  const [all, setAll] = useState(false);
  const other = useQuery(runQuery(project, pin.stream, pin.number)).data;
  const found = useQuery({
    ...stepsBesideQuery(project, props.run, props.result, props.attempt, other, pin),
    enabled: other !== undefined,
  });
  if (found.error) {
    return (
      <div className="shrink-0 border-b border-base-300 px-6 py-2">
        <Failed error={found.error} retry={() => found.refetch()} />
      </div>
    );
  }
  const rows = found.data ?? [];
  const differing = rows.filter((row) => row.differs).length;
  if (rows.length === 0) {
    return null;
  }
  // What tells of no steps at all has not left any out.
  const silent = (['before', 'now'] as const).find((side) => rows.every((row) => !row[side]));
  if (silent) {
    return (
      <p className="shrink-0 border-b border-base-300 px-6 py-2 text-sm text-quiet">
        The {silent === 'before' ? 'pinned' : 'chosen'} result tells of no steps to compare with.
      </p>
    );
  }
  return (
    <section
      aria-label="Steps beside each other"
      className="flex max-h-[40%] shrink-0 flex-col border-b border-base-300"
    >
      <div className="flex shrink-0 flex-wrap items-center gap-x-4 px-6 py-2">
        <h2 className="font-semibold">
          Steps:{' '}
          {differing === 0
            ? `all ${rows.length} ended the same`
            : `${differing} of ${rows.length} ${differing === 1 ? 'differs' : 'differ'}`}
        </h2>
        <label className="flex items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="toggle toggle-xs"
            checked={all}
            onChange={(event) => setAll(event.target.checked)}
          />
          all of them
        </label>
      </div>
      {all || differing > 0 ? (
        <div
          className="min-h-0 overflow-y-auto px-6 pb-2"
          tabIndex={0}
          role="group"
          aria-label="Steps"
        >
          <table className="w-full text-sm">
            <thead>
              <tr className="text-left text-quiet">
                <th className="w-28 pr-4 font-normal">pinned</th>
                <th className="w-28 pr-4 font-normal">chosen</th>
                <th className="font-normal">step</th>
              </tr>
            </thead>
            <tbody>
              {toldSteps(rows, all).map((one) =>
                one.row === undefined ? (
                  <tr key={`same ${one.at}`} className="text-quiet">
                    <td colSpan={2} />
                    <td className="py-0.5">{plural(one.same, 'step')} that ended the same</td>
                  </tr>
                ) : (
                  <Row key={one.at} row={one.row} />
                ),
              )}
            </tbody>
          </table>
        </div>
      ) : null}
    </section>
  );
}

function Row({ row }: { row: StepBeside }) {
  const text = (row.now ?? row.before)?.text ?? '';
  return (
    <tr className={`align-baseline ${row.differs ? 'bg-base-200' : ''}`}>
      <Went went={row.before} />
      <Went went={row.now} />
      <td className="py-0.5 break-words" style={{ paddingLeft: `${row.depth * 1.25}rem` }}>
        {text || <span className="text-quiet">without a name</span>}
        {row.now && row.before && row.now.text !== row.before.text ? (
          <span className="block text-quiet">pinned: {row.before.text}</span>
        ) : null}
      </td>
    </tr>
  );
}

function Went({ went }: { went: StepBeside['now'] }) {
  return (
    <td className="py-0.5 pr-4 whitespace-nowrap">
      {went === null ? (
        <span className="text-quiet">not there</span>
      ) : (
        <span className="inline-flex items-baseline gap-1.5">
          <OutcomeGlyph outcome={asOutcome(went.outcome)} size={11} label />
          {went.status ?? (went.durationMs === null ? '' : duration(went.durationMs))}
        </span>
      )}
    </td>
  );
}
