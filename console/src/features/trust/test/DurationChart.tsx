import { duration } from '../../../shared/lib/format';
import type { TestHistory } from '../api';
import { factors } from '../model';
import { RunNumber } from './RunNumber';

const WIDTH = 600;
const HEIGHT = 90;
const MARGIN = 4;

/** How long it took in each run, and where that changed for good. */
export function DurationChart(props: { project: string; stream: string; history: TestHistory }) {
  const { stretches } = props.history;
  const timed = [...props.history.results]
    .reverse()
    .flatMap((one) =>
      one.durationMs === null || (one.outcome !== 'passed' && one.outcome !== 'failed')
        ? []
        : [{ run: one.run, ms: one.durationMs, passed: one.outcome === 'passed' }],
    );
  if (timed.length < 2) {
    return null;
  }
  const most = Math.max(...timed.map((one) => one.ms), 1);
  const x = (at: number) => MARGIN + (at / (timed.length - 1)) * (WIDTH - 2 * MARGIN);
  const y = (ms: number) => HEIGHT - MARGIN - (ms / most) * (HEIGHT - 2 * MARGIN);
  const place = (run: number) => timed.findIndex((one) => one.run === run);
  const steps = factors(stretches);
  const last = stretches.at(-1);
  const changed = stretches.flatMap((one, at) => {
    const factor = steps[at];
    return factor === null || factor === undefined ? [] : [{ ...one, factor }];
  });
  return (
    <div>
      <h3 className="font-semibold">
        How long it takes{' '}
        <span className="text-sm font-normal text-quiet">
          {last === undefined ? '' : `${duration(last.medianMs)} now, `}
          {duration(most)} at most
        </span>
      </h3>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        preserveAspectRatio="none"
        className="mt-1 h-24 w-full border-b border-base-300"
        role="img"
        aria-label={`Durations of the latest ${timed.length} runs, from 0 to ${duration(most)}`}
      >
        {timed.map((one, at) => (
          <line
            key={one.run}
            x1={x(at)}
            x2={x(at)}
            y1={y(0)}
            y2={y(one.ms)}
            className={one.passed ? 'stroke-slate opacity-40' : 'stroke-failed'}
            strokeWidth={2}
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {stretches.map((one) => (
          <line
            key={one.fromRun}
            x1={x(Math.max(0, place(one.fromRun)))}
            x2={x(Math.max(0, place(one.toRun)))}
            y1={y(one.medianMs)}
            y2={y(one.medianMs)}
            className="stroke-primary"
            strokeWidth={2}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
      <ul className="mt-1 space-y-0.5 text-sm">
        {changed.map((one) => (
          <li key={one.fromRun}>
            <b>{one.factor > 1 ? 'Slower' : 'Faster'}</b> since{' '}
            <RunNumber
              project={props.project}
              stream={props.stream}
              run={one.fromRun}
              filter={undefined}
            />{' '}
            by a factor of {(one.factor > 1 ? one.factor : 1 / one.factor).toFixed(1)}, to{' '}
            {duration(one.medianMs)}
          </li>
        ))}
      </ul>
    </div>
  );
}
