import { Link } from '@tanstack/react-router';
import type { Detail } from '../../../shared/attempts/types';
import { plural } from '../../../shared/lib/format';
import { asOutcome, OutcomeGlyph } from '../../../shared/ui/OutcomeGlyph';
import type { Run } from '../api';
import { failingSince, otherResult, type RunSearch } from '../model';

/** What the test did in earlier runs of the stream. */
export function Before({ project, run, detail }: { project: string; run: Run; detail: Detail }) {
  if (detail.before.length === 0) {
    return <p className="mt-3 text-sm text-quiet">Not seen in an earlier run of this stream.</p>;
  }
  const lastPass = detail.before.find((earlier) => earlier.outcome === 'passed');
  const failing = detail.result.outcome === 'failed' || detail.result.outcome === 'errored';
  const since = failing ? failingSince(detail.before) : null;
  return (
    <div className="mt-3 flex flex-wrap items-center gap-x-3 text-sm">
      <span className="text-quiet">Before:</span>
      <ol
        className="flex flex-row-reverse flex-wrap justify-end"
        aria-label="Earlier runs, the newest first"
      >
        {detail.before.map((earlier) => (
          <li key={earlier.run}>
            <Link
              to="/$project/runs/$"
              params={{ project, _splat: `${run.stream}/${earlier.run}` }}
              search={(now: RunSearch) => otherResult(now, earlier.result)}
              title={`#${earlier.run}: ${earlier.outcome}${earlier.retried ? ', retried' : ''}`}
              aria-label={`Run ${earlier.run}: ${earlier.outcome}`}
              className="flex h-6 w-[15px] items-center justify-center rounded-sm hover:bg-base-300"
            >
              <OutcomeGlyph outcome={asOutcome(earlier.outcome)} size={11} />
            </Link>
          </li>
        ))}
      </ol>
      {since ? (
        <span className="font-semibold">
          failing since #{since.run}
          {since.orLonger ? ' or longer' : ''}
        </span>
      ) : null}
      {detail.result.outcome === 'passed' ? null : lastPass ? (
        <span className="text-quiet">
          last passed in{' '}
          <Link
            to="/$project/runs/$"
            params={{ project, _splat: `${run.stream}/${lastPass.run}` }}
            search={(now: RunSearch) => otherResult(now, lastPass.result)}
            className="link"
          >
            #{lastPass.run}
          </Link>
        </span>
      ) : (
        <span className="text-quiet">
          no pass in the {plural(detail.before.length, 'run')} before
        </span>
      )}
    </div>
  );
}
