import { useInfiniteQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef } from 'react';
import { useKeys } from '../../../shared/lib/keys';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { type Result, type Run, resultsQuery } from '../api';
import { ResultLink } from './ResultLink';
import { ResultRow } from './ResultRow';

const ROW = 54;

/** All results of a run that the filter lets through, failing first; only what is seen is drawn. */
export function ResultList(props: {
  project: string;
  run: Run;
  filter: string;
  selected: string | undefined;
  onSelect: (result: Result) => void;
  onFirst: (result: string | undefined) => void;
}) {
  const { selected, onSelect, onFirst } = props;
  const query = useInfiniteQuery(resultsQuery(props.project, props.run, props.filter));
  const rows = useMemo(() => query.data?.pages.flatMap((page) => page.items) ?? [], [query.data]);
  const viewport = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => viewport.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const lastSeen = items.at(-1)?.index ?? 0;
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = query;

  useEffect(() => {
    if (hasNextPage && !isFetchingNextPage && lastSeen >= rows.length - 40) {
      void fetchNextPage();
    }
  }, [hasNextPage, isFetchingNextPage, fetchNextPage, lastSeen, rows.length]);

  const first = rows[0]?.id;
  useEffect(() => onFirst(first), [first, onFirst]);

  useKeys((event) => {
    const at = rows.findIndex((row) => row.id === selected);
    const next = target(event.key, rows, at);
    const row = next === undefined ? undefined : rows[next];
    if (row && next !== undefined) {
      event.preventDefault();
      onSelect(row);
      virtual.scrollToIndex(next);
    }
  });

  if (query.isPending) {
    return <Loading lines={8} />;
  }
  if (query.error) {
    return <Failed error={query.error} retry={() => query.refetch()} />;
  }
  if (rows.length === 0 && props.run.open && props.run.counts.tests === 0) {
    return <Empty title="No result yet">Each appears here as soon as its test has ended.</Empty>;
  }
  if (rows.length === 0) {
    return <Empty title="No result fits">Ask for less, or for something else.</Empty>;
  }
  return (
    <div
      ref={viewport}
      className="min-h-0 grow overflow-y-auto"
      tabIndex={0}
      role="group"
      aria-label="List of results"
    >
      <ul className="relative" style={{ height: virtual.getTotalSize() }}>
        {items.map((item) => {
          const row = rows[item.index];
          return row ? (
            <li
              key={row.id}
              className="absolute inset-x-0 top-0 border-b border-base-300/70"
              style={{ height: ROW, transform: `translateY(${item.start}px)` }}
            >
              <ResultLink
                project={props.project}
                run={props.run}
                result={row}
                selected={row.id === selected}
                className="h-full px-4"
                everyTab={false}
              >
                <ResultRow result={row} withSuite />
              </ResultLink>
            </li>
          ) : null;
        })}
      </ul>
    </div>
  );
}

/** Which row a key leads to; undefined for none. */
function target(key: string, rows: Result[], at: number): number | undefined {
  switch (key) {
    case 'j':
    case 'ArrowDown':
      return Math.min(at + 1, rows.length - 1);
    case 'k':
    case 'ArrowUp':
      return Math.max(at - 1, 0);
    case 'n': {
      const next = rows.findIndex((row, i) => i > at && row.change === 'new failing');
      return next < 0 ? undefined : next;
    }
    default:
      return undefined;
  }
}
