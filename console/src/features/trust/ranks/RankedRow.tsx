import { TestName } from '../../../shared/trust/TestName';
import { beside, figure, type Rank, type Ranked } from './words';

/** A test with the figure that ranks it. */
export function RankedRow({ test, by }: { test: Ranked; by: Rank }) {
  const strong = by === 'slowing' || by === 'failing' || by === 'costly';
  return (
    <span className="flex min-w-0 items-start gap-3">
      <span
        className={`w-16 shrink-0 text-right tabular-nums ${
          strong ? 'font-semibold text-failed' : 'text-[13px] text-quiet'
        }`}
      >
        {figure(test, by)}
      </span>
      <span className="min-w-0 grow">
        <TestName test={test.test} variant={test.variant} quarantined={test.quarantined !== null} />
        <span className="flex min-w-0 items-baseline gap-2 text-[13px] text-quiet">
          <span className="min-w-0 truncate">{beside(test, by)}</span>
          <span className="ml-auto shrink-0 truncate">{test.stream}</span>
        </span>
      </span>
    </span>
  );
}
