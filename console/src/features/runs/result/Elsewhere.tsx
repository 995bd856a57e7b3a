import { Link } from '@tanstack/react-router';
import type { Detail } from '../../../shared/attempts/types';
import { asOutcome, OutcomeGlyph } from '../../../shared/ui/OutcomeGlyph';
import type { Run } from '../api';
import { cleaned, elsewhereWords, type RunSearch, whereOf } from '../model';

/** The same test in other variants or parts of the run. */
export function Elsewhere({ project, run, detail }: { project: string; run: Run; detail: Detail }) {
  if (detail.elsewhere.length === 0) {
    return null;
  }
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
      <span className="text-quiet">In this run also:</span>
      <ul className="contents" aria-label="The same test elsewhere in this run">
        {detail.elsewhere.map((other) => (
          <li key={other.result}>
            <Link
              to="/$project/runs/$"
              params={{ project, _splat: `${run.stream}/${run.number}` }}
              search={(now: RunSearch) =>
                cleaned({ ...now, result: other.result, attempt: undefined })
              }
              title={`${whereOf(other, detail)}: ${other.outcome}`}
              className="inline-flex max-w-60 items-center gap-1.5 rounded-sm px-1 hover:bg-base-300"
            >
              <OutcomeGlyph outcome={asOutcome(other.outcome)} size={11} label />
              <span className="truncate">{whereOf(other, detail)}</span>
            </Link>
          </li>
        ))}
      </ul>
      <span className="font-semibold">{elsewhereWords(detail)}</span>
    </div>
  );
}
