import { plural } from '../../../shared/lib/format';
import { TestName } from '../../../shared/trust/TestName';
import type { Taken } from '../api';
import { interval, percent } from '../model';

/** A test in the list: how often it fails by chance, which one it is, and how that is known. */
export function TestRow({ taken }: { taken: Taken }) {
  const { estimate } = taken;
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
        <TestName
          test={estimate.test}
          variant={estimate.variant}
          quarantined={taken.quarantined !== null}
        />
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
