import { useInfiniteQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useMemo } from 'react';
import { plural } from '../../../shared/lib/format';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { foundTestsQuery } from '../api';
import { VariantWords } from '../components/VariantWords';
import { displayName } from '../model';

/** Tests of all streams, those that came first first: also such as no run has any more. */
export function FoundTests({ project, filter }: { project: string; filter: string }) {
  const query = useInfiniteQuery(foundTestsQuery(project, filter));
  const tests = useMemo(() => query.data?.pages.flatMap((page) => page.items) ?? [], [query.data]);
  if (query.isPending) {
    return <Loading lines={8} />;
  }
  if (query.error) {
    return <Failed error={query.error} retry={() => query.refetch()} />;
  }
  if (tests.length === 0) {
    return <Empty title="No test fits">Ask for less, or for something else.</Empty>;
  }
  return (
    <section
      aria-label="Tests"
      className="min-h-0 grow overflow-y-auto border-t border-base-300"
      tabIndex={0}
    >
      {query.hasNextPage ? (
        <p role="status" className="px-5 py-2 text-[13px] text-quiet">
          The first {plural(tests.length, 'test')}; there are more
        </p>
      ) : null}
      <ul>
        {tests.map((test) => (
          <li key={test.id} className="border-b border-base-300/70 px-5 py-2">
            <p className="flex items-baseline gap-2">
              <Link
                to="/$project/tests"
                params={{ project }}
                search={{ test: test.id }}
                className="link-hover min-w-0 truncate font-semibold"
                title={displayName(test)}
              >
                {displayName(test)}
              </Link>
              <VariantWords variant={test.variant} short />
              {test.file ? (
                <span
                  className="ml-auto max-w-[40%] shrink-0 truncate text-[13px] text-quiet"
                  title={test.file}
                >
                  {test.file}
                </span>
              ) : null}
            </p>
            <p className="truncate text-[13px] text-quiet" title={test.suite.join(' › ')}>
              {test.suite.join(' › ')}
            </p>
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
            Further tests
          </button>
        </p>
      ) : null}
    </section>
  );
}
