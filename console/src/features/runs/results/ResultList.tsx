import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { KeyedList } from '../../../shared/layout/KeyedList';
import { categoriesQuery } from '../../../shared/triage/api';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { quarantinedQuery, type Result, type Run, resultsQuery } from '../api';
import { isFailing } from '../model';
import { ResultLink } from './ResultLink';
import { ResultRow } from './ResultRow';

const ROW = 54;

/** All results of a run that the filter lets through, failing first. */
export function ResultList(props: {
  project: string;
  run: Run;
  filter: string;
  selected: string | undefined;
  onSelect: (result: Result) => void;
  onFirst: (result: string | undefined) => void;
}) {
  const { project, run, onFirst } = props;
  const query = useInfiniteQuery(resultsQuery(project, run, props.filter));
  const categories = useQuery(categoriesQuery(project));
  const quarantined = useQuery({
    ...quarantinedQuery(project, run),
    enabled: run.counts.failed + run.counts.errored > 0,
  });
  const rows = useMemo(() => query.data?.pages.flatMap((page) => page.items) ?? [], [query.data]);
  const first = rows[0]?.id;
  useEffect(() => onFirst(first), [first, onFirst]);

  if (query.isPending) {
    return <Loading lines={8} />;
  }
  if (query.error) {
    return <Failed error={query.error} retry={() => query.refetch()} />;
  }
  if (rows.length === 0 && run.open && run.counts.tests === 0) {
    return <Empty title="No result yet">Each appears here as soon as its test has ended.</Empty>;
  }
  if (rows.length === 0) {
    return <Empty title="No result fits">Ask for less, or for something else.</Empty>;
  }
  return (
    <KeyedList
      label="List of results"
      rows={rows}
      rowHeight={ROW}
      keyOf={(row) => row.id}
      selected={props.selected}
      onSelect={props.onSelect}
      onKey={(key, at) => (key === 'n' ? nextNew(rows, at) : undefined)}
      onMore={query.hasNextPage && !query.isFetchingNextPage ? query.fetchNextPage : undefined}
    >
      {(row, selected) => (
        <ResultLink
          project={project}
          run={run}
          result={row}
          selected={selected}
          className="h-full px-4"
          everyTab={false}
        >
          <ResultRow
            result={row}
            withSuite
            categories={categories.data}
            quarantined={isFailing(row) && quarantined.data?.tests.includes(row.testId)}
          />
        </ResultLink>
      )}
    </KeyedList>
  );
}

/** The next row that has begun to fail in this run. */
function nextNew(rows: Result[], at: number): number | undefined {
  const next = rows.findIndex((row, i) => i > at && row.change === 'new failing');
  return next < 0 ? undefined : next;
}
