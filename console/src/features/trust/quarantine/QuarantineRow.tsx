import { didWords, STANDING_COLOURS, standingWords } from '../../../shared/trust/standing';
import { TestName } from '../../../shared/trust/TestName';
import type { Quarantine } from '../api';

/** A test in quarantine: who promised what, and what it did since. */
export function QuarantineRow({ one }: { one: Quarantine }) {
  return (
    <span className="block min-w-0">
      <span className="flex min-w-0 items-start gap-3">
        <span className="min-w-0 grow">
          <TestName test={one.test} variant={one.variant} />
        </span>
        <span className={`shrink-0 text-[13px] ${STANDING_COLOURS[one.standing]}`}>
          {standingWords(one)}
        </span>
      </span>
      <span className="block truncate text-[13px]">
        <span className="font-semibold">{one.owner}</span>: {one.reason}
        {one.ticket === null ? '' : ` (${one.ticket})`}
      </span>
      <span className="flex min-w-0 items-baseline gap-2 text-[13px] text-quiet">
        <span className="min-w-0 truncate">{didWords(one)}</span>
        <span className="ml-auto shrink-0 truncate">{one.stream ?? 'every stream'}</span>
      </span>
    </span>
  );
}
