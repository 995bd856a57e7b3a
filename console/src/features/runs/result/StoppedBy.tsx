import { Link } from '@tanstack/react-router';
import type { Detail } from '../../../shared/attempts/types';
import type { Run } from '../api';
import { displayName, type RunSearch } from '../model';

/** The set-up whose failure kept the test from running. */
export function StoppedBy({ project, run, detail }: { project: string; run: Run; detail: Detail }) {
  const cause = detail.stoppedBy;
  return cause ? (
    <p className="mt-4 rounded-box border-l-4 border-errored bg-base-200 px-4 py-2">
      Not reached, since{' '}
      <Link
        to="/$project/runs/$"
        params={{ project, _splat: `${run.stream}/${run.number}` }}
        search={(now: RunSearch) => ({ ...now, result: cause.id, attempt: undefined })}
        className="link font-semibold"
      >
        {displayName(cause)}
      </Link>{' '}
      failed{cause.firstLine ? `: ${cause.firstLine}` : ''}
    </p>
  ) : null;
}
