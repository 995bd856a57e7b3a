import { useQuery } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { KeyedList } from '../../../shared/layout/KeyedList';
import { SplitPage } from '../../../shared/layout/SplitPage';
import { useRunNews } from '../../../shared/runs/news';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { type Taken, takenQuery, type Verdict } from '../api';
import { cleaned, type Show, type TestsSearch } from '../model';
import { QuarantineList } from '../quarantine/QuarantineList';
import { RankedList } from '../ranks/RankedList';
import { RANKS, type Rank } from '../ranks/words';
import { TestPanel } from '../test/TestPanel';
import { MadeUpList } from './MadeUpList';
import { RenameList } from './RenameList';
import { TestRow } from './TestRow';
import { TestsHead } from './TestsHead';

const ROW = 72;

/** Tests by what they are taken for; the chosen one with its history beside the list. */
export function TestsPage({ project, search }: { project: string; search: TestsSearch }) {
  useRunNews(project);
  const navigate = useNavigate();
  const show = search.show ?? 'flaky';
  const change = (next: Partial<TestsSearch>) =>
    void navigate({
      to: '/$project/tests',
      params: { project },
      search: cleaned({ ...search, ...next }),
      replace: true,
    });
  const open = (test: number, stream: string | undefined) =>
    change({ test, in: stream, branch: undefined });
  return (
    <SplitPage
      head={
        <TestsHead
          project={project}
          show={show}
          stream={search.stream}
          onChange={(next) =>
            change({
              ...next,
              test: undefined,
              in: undefined,
              branch: undefined,
              filter: undefined,
            })
          }
        />
      }
    >
      <section
        aria-label="Tests"
        className="flex min-h-0 flex-col border-base-300 max-[899px]:max-h-[40vh] max-[899px]:shrink-0 max-[899px]:border-b min-[900px]:border-r"
      >
        {show === 'renamed' ? (
          <RenameList project={project} search={search} onOpen={open} />
        ) : show === 'made-up' ? (
          <MadeUpList project={project} search={search} onOpen={open} />
        ) : show === 'quarantine' ? (
          <QuarantineList project={project} search={search} onOpen={open} />
        ) : isRank(show) ? (
          <RankedList project={project} by={show} search={search} onChange={change} onOpen={open} />
        ) : (
          <TakenList project={project} show={show} search={search} onOpen={open} />
        )}
      </section>
      {search.test === undefined ? (
        <Empty title="No test chosen">
          What a test did before is shown here: choose one with <kbd className="kbd kbd-sm">j</kbd>{' '}
          and <kbd className="kbd kbd-sm">k</kbd>, or press <kbd className="kbd kbd-sm">h</kbd> at
          any result.
        </Empty>
      ) : (
        <TestPanel
          key={search.test}
          project={project}
          test={search.test}
          stream={search.in}
          branch={search.branch}
          apart={search.apart === true}
          onChange={change}
        />
      )}
    </SplitPage>
  );
}

function TakenList(props: {
  project: string;
  show: Verdict;
  search: TestsSearch;
  onOpen: (test: number, stream: string) => void;
}) {
  const { search } = props;
  const taken = useQuery(takenQuery(props.project, props.show, search.stream));
  if (taken.isPending) {
    return <Loading lines={8} />;
  }
  if (taken.error) {
    return <Failed error={taken.error} retry={() => taken.refetch()} />;
  }
  if (taken.data.length === 0) {
    return <NoneOf show={props.show} stream={search.stream} />;
  }
  return (
    <KeyedList
      label="List of tests"
      rows={taken.data}
      rowHeight={ROW}
      keyOf={keyOf}
      selected={search.test === undefined ? undefined : `${search.test} ${search.in}`}
      onSelect={(row) => props.onOpen(row.estimate.id, row.stream)}
      onMore={undefined}
    >
      {(row, selected) => (
        <button
          type="button"
          aria-current={selected}
          onClick={() => props.onOpen(row.estimate.id, row.stream)}
          className={`block h-full w-full border-l-[3px] px-4 py-2 text-left ${
            selected ? 'border-primary bg-base-200' : 'border-transparent hover:bg-base-200/60'
          }`}
        >
          <TestRow taken={row} />
        </button>
      )}
    </KeyedList>
  );
}

function isRank(show: Show): show is Rank {
  return RANKS.some((one) => one === show);
}

function keyOf(row: Taken): string {
  return `${row.estimate.id} ${row.stream}`;
}

function NoneOf({ show, stream }: { show: Show; stream: string | undefined }) {
  const where = stream === undefined ? '' : ` in ${stream}`;
  switch (show) {
    case 'flaky':
      return (
        <Empty title="No flaky test">
          No test{where} is known to pass and fail without a change that explains it.
        </Empty>
      );
    case 'broken':
      return (
        <Empty title="No broken test">No test{where} fails by itself until it is mended.</Empty>
      );
    default:
      return <Empty title="None">Every test{where} is known well enough.</Empty>;
  }
}
