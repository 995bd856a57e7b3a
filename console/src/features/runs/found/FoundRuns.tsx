import { useInfiniteQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { plural } from '../../../shared/lib/format';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { runsQuery } from '../api';
import { ChangesLine } from '../components/ChangesLine';
import { CountsLine } from '../components/CountsLine';
import { FoundList } from './FoundList';

/** Runs of all streams, the newest first. */
export function FoundRuns({ project, filter }: { project: string; filter: string }) {
  return (
    <FoundList
      query={useInfiniteQuery(runsQuery(project, undefined, filter))}
      label="Runs"
      none="No run fits"
      first={(number) => `The latest ${plural(number, 'run')}`}
      more="Earlier runs"
    >
      {(run) => (
        <div className="flex flex-wrap items-baseline gap-x-4">
          <Link
            to="/$project/runs/$"
            params={{ project, _splat: `${run.stream}/${run.number}` }}
            className="link-hover w-64 truncate font-semibold"
            title={run.stream}
          >
            {run.stream} #{run.number}
          </Link>
          <CountsLine counts={run.counts} />
          <span className="text-sm">
            <ChangesLine changes={run.changes} />
          </span>
          <span className="ml-auto text-sm text-quiet">
            {run.branch ? `${run.branch} · ` : ''}
            <RelativeTime iso={run.startedAt} />
          </span>
        </div>
      )}
    </FoundList>
  );
}
