import { useInfiniteQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useMemo } from 'react';
import { plural } from '../../../shared/lib/format';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { runsQuery } from '../api';
import { ChangesLine } from '../components/ChangesLine';
import { CountsLine } from '../components/CountsLine';

/** Runs of all streams, the newest first. */
export function FoundRuns({ project, filter }: { project: string; filter: string }) {
  const query = useInfiniteQuery(runsQuery(project, undefined, filter));
  const runs = useMemo(() => query.data?.pages.flatMap((page) => page.items) ?? [], [query.data]);
  if (query.isPending) {
    return <Loading lines={8} />;
  }
  if (query.error) {
    return <Failed error={query.error} retry={() => query.refetch()} />;
  }
  if (runs.length === 0) {
    return <Empty title="No run fits">Ask for less, or for something else.</Empty>;
  }
  return (
    <section
      aria-label="Runs"
      className="min-h-0 grow overflow-y-auto border-t border-base-300"
      tabIndex={0}
    >
      <p role="status" className="px-5 py-2 text-[13px] text-quiet">
        {query.hasNextPage
          ? `The latest ${plural(runs.length, 'run')}; there are more`
          : plural(runs.length, 'run')}
      </p>
      <ul>
        {runs.map((run) => (
          <li
            key={run.id}
            className="flex flex-wrap items-baseline gap-x-4 border-t border-base-300/70 px-5 py-2"
          >
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
          </li>
        ))}
      </ul>
      {query.hasNextPage ? (
        <p className="px-5 py-3">
          <button
            type="button"
            className="btn btn-sm"
            disabled={query.isFetchingNextPage}
            onClick={() => query.fetchNextPage()}
          >
            Earlier runs
          </button>
        </p>
      ) : null}
    </section>
  );
}
