import { plural } from '../../../shared/lib/format';
import type { Taken } from '../api';
import { interval, percent } from '../model';

/** A test in the list: how often it fails by chance, which one it is, and how that is known. */
export function TestRow({ taken }: { taken: Taken }) {
  const { estimate } = taken;
  const hash = estimate.test.indexOf('#');
  const suite = estimate.test.slice(0, hash);
  return (
    <span className="flex min-w-0 items-start gap-3">
      <span className="w-14 shrink-0 text-right tabular-nums">
        {estimate.rate !== null && estimate.verdict === 'flaky' ? (
          <>
            <span className="block text-base font-semibold text-failed">
              {percent(estimate.rate)}
            </span>
            <span className="sr-only">of its tries fail by chance</span>
          </>
        ) : (
          <span className="block text-[13px] text-quiet">
            {estimate.verdict === 'broken' ? 'broken' : 'not yet'}
          </span>
        )}
      </span>
      <span className="min-w-0 grow">
        <span className="flex min-w-0 items-baseline gap-2">
          <span className="min-w-0 truncate font-semibold" title={estimate.test}>
            {estimate.test.slice(hash + 1)}
          </span>
          {estimate.variant === '' ? null : (
            <span className="badge badge-xs badge-outline max-w-40 shrink-0 border-base-content/30">
              <span className="truncate">{estimate.variant}</span>
            </span>
          )}
        </span>
        <span className="block truncate text-[13px] text-quiet" title={suite}>
          {suite}
        </span>
        <span className="flex min-w-0 items-baseline gap-2 text-[13px] text-quiet">
          <span className="min-w-0 truncate">
            failed in {estimate.stumbles} of {plural(estimate.runs, 'run')}
            {estimate.verdict === 'flaky' && estimate.low !== null && estimate.high !== null
              ? `, so ${interval(estimate.low, estimate.high)}`
              : ''}
            {estimate.onlyIn === null ? '' : `, ${estimate.onlyIn} alone`}
          </span>
          <span className="ml-auto shrink-0 truncate">
            {taken.stream}
            {estimate.since === null ? '' : `, since #${estimate.since}`}
          </span>
        </span>
      </span>
    </span>
  );
}
