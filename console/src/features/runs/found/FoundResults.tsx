import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { KeyedList } from '../../../shared/layout/KeyedList';
import { categoriesQuery } from '../../../shared/triage/api';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { type Found, foundQuery } from '../api';
import { foundKey } from '../model';
import { ResultRow } from '../results/ResultRow';

const ROW = 76;

/** Results of all runs, those of the newest first. */
export function FoundResults(props: {
  project: string;
  filter: string;
  chosen: string | undefined;
  onChoose: (key: string) => void;
}) {
  const query = useInfiniteQuery(foundQuery(props.project, props.filter));
  const categories = useQuery(categoriesQuery(props.project));
  const rows = useMemo(() => query.data?.pages.flatMap((page) => page.items) ?? [], [query.data]);
  if (query.isPending) {
    return <Loading lines={8} />;
  }
  if (query.error) {
    return <Failed error={query.error} retry={() => query.refetch()} />;
  }
  if (rows.length === 0 && query.hasNextPage) {
    return (
      <Empty title="None yet">
        There is much to look through, and nothing in the latest runs.
        <p className="mt-3">
          <button
            type="button"
            className="btn btn-sm"
            disabled={query.isFetchingNextPage}
            onClick={() => query.fetchNextPage()}
          >
            Look further back
          </button>
        </p>
      </Empty>
    );
  }
  if (rows.length === 0) {
    return <Empty title="No result fits">Ask for less, or for something else.</Empty>;
  }
  return (
    <KeyedList
      label="List of results"
      rows={rows}
      rowHeight={ROW}
      keyOf={keyOf}
      selected={props.chosen}
      onSelect={(row) => props.onChoose(keyOf(row))}
      onMore={query.hasNextPage && !query.isFetchingNextPage ? query.fetchNextPage : undefined}
    >
      {(row, selected) => (
        <button
          type="button"
          aria-current={selected}
          onClick={() => props.onChoose(keyOf(row))}
          className={`block h-full w-full border-l-[3px] px-4 py-2 text-left ${
            selected ? 'border-primary bg-base-200' : 'border-transparent hover:bg-base-200/60'
          }`}
        >
          <ResultRow result={row.result} withSuite categories={categories.data} />
          <span className="mt-0.5 flex gap-3 pl-6 text-[13px] text-quiet">
            <span className="min-w-0 truncate">
              {row.run.stream} #{row.run.number}
            </span>
            <span className="ml-auto shrink-0">
              <RelativeTime iso={row.run.startedAt} />
            </span>
          </span>
        </button>
      )}
    </KeyedList>
  );
}

function keyOf(row: Found): string {
  return foundKey(row.run.stream, row.run.number, row.result.id);
}
