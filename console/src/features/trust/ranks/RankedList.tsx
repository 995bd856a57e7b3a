import { useQuery } from '@tanstack/react-query';
import { FilterBox } from '../../../shared/filter/FilterBox';
import { KeyedList } from '../../../shared/layout/KeyedList';
import { duration, plural } from '../../../shared/lib/format';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { MOST, rankedQuery, slowStreamsQuery, slowSuitesQuery, tableAddress } from '../api';
import type { TestsSearch } from '../model';
import { RunNumber } from '../test/RunNumber';
import { RankedRow } from './RankedRow';
import type { Rank, Ranked } from './words';

const ROW = 76;

const NONE: Record<Rank, string> = {
  costly: 'No test is flaky.',
  slowing: 'No test became slower in the latest sixty runs of its stream.',
  failing: 'No test failed in the latest sixty runs of its stream.',
  slowest: 'No run told how long a test takes.',
  newest: 'No run has been counted yet.',
  missing: 'The latest runs have had every test.',
  steady: 'No test passed in all of the latest sixty runs.',
};

/** Tests by a figure of the latest sixty runs of each stream. */
export function RankedList(props: {
  project: string;
  by: Rank;
  search: TestsSearch;
  onChange: (next: Partial<TestsSearch>) => void;
  onOpen: (test: number, stream: string) => void;
}) {
  const { project, by, search } = props;
  const ranked = useQuery(rankedQuery(project, by, search.stream, search.filter ?? ''));
  return (
    <>
      <div className="shrink-0 border-b border-base-300 px-4 py-2">
        <FilterBox
          project={project}
          of="test"
          filter={search.filter ?? ''}
          onChange={(filter) => props.onChange({ filter: filter === '' ? undefined : filter })}
          placeholder='filter, as in suite co "fares"'
        />
        <p className="mt-1.5 flex gap-3 text-[13px] text-quiet">
          {ranked.data?.length === MOST ? <span>The first {MOST}.</span> : null}
          <a
            className="link ml-auto"
            href={tableAddress(project, by, search.stream, search.filter ?? '')}
            download
          >
            all of them as a table (CSV)
          </a>
        </p>
        {by === 'slowing' ? (
          <>
            <SlowStreams project={project} stream={search.stream} />
            <SlowSuites project={project} stream={search.stream} />
          </>
        ) : null}
      </div>
      {ranked.isPending ? (
        <Loading lines={8} />
      ) : ranked.error ? (
        <Failed error={ranked.error} retry={() => ranked.refetch()} />
      ) : ranked.data.length === 0 ? (
        <Empty title="None">{search.filter ? 'No such test fits the filter.' : NONE[by]}</Empty>
      ) : (
        <KeyedList
          label="List of tests"
          rows={ranked.data}
          rowHeight={ROW}
          keyOf={keyOf}
          selected={search.test === undefined ? undefined : `${search.test} ${search.in}`}
          onSelect={(row) => props.onOpen(row.id, row.stream)}
          onMore={undefined}
        >
          {(row, selected) => (
            <button
              type="button"
              aria-current={selected}
              onClick={() => props.onOpen(row.id, row.stream)}
              className={`block h-full w-full border-l-[3px] px-4 py-2 text-left ${
                selected ? 'border-primary bg-base-200' : 'border-transparent hover:bg-base-200/60'
              }`}
            >
              <RankedRow test={row} by={by} />
            </button>
          )}
        </KeyedList>
      )}
    </>
  );
}

function keyOf(row: Ranked): string {
  return `${row.id} ${row.stream}`;
}

/** What all tests of a stream have in common is no test's. */
function SlowStreams({ project, stream }: { project: string; stream: string | undefined }) {
  const slow = useQuery(slowStreamsQuery(project));
  return (slow.data ?? [])
    .filter((one) => stream === undefined || one.stream === stream)
    .map((one) => (
      <p key={one.stream} className="mt-1.5 text-[13px]">
        <span className="font-semibold">All of {one.stream}</span> became slower since{' '}
        <RunNumber project={project} stream={one.stream} run={one.since} filter={undefined} /> by a
        factor of {one.factor.toFixed(1)}, which is not counted for its tests.
      </p>
    ));
}

/** So many are told above the tests. */
const SUITES = 3;

/** What no test of a suite does alone. */
function SlowSuites({ project, stream }: { project: string; stream: string | undefined }) {
  const slow = useQuery(slowSuitesQuery(project, stream));
  return (slow.data ?? []).slice(0, SUITES).map((one) => (
    <p key={`${one.stream} ${one.suite}`} className="mt-1.5 text-[13px]">
      <span className="font-semibold">{one.suite}</span> as a whole, {plural(one.tests, 'test')} of{' '}
      {one.stream}: {duration(one.beforeMillis)} before{' '}
      <RunNumber project={project} stream={one.stream} run={one.since} filter={undefined} />, now{' '}
      {duration(one.millis)}; {duration(one.weeklyCostMillis)} a week.
    </p>
  ));
}
