import { useQuery } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { filterCountQuery } from '../../../shared/filter/api';
import { FilterBox } from '../../../shared/filter/FilterBox';
import { SplitPage } from '../../../shared/layout/SplitPage';
import { count, plural } from '../../../shared/lib/format';
import { useRunNews } from '../../../shared/runs/news';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { runQuery } from '../api';
import { cleaned, type FoundPlace, type FoundSearch, readFoundKey } from '../model';
import { ResultPanel } from '../result/ResultPanel';
import { FoundResults } from './FoundResults';
import { FoundRuns } from './FoundRuns';
import { FoundTests } from './FoundTests';

const SAID = {
  result: {
    word: 'Results',
    hint: 'filter of results of all runs, as in outcome eq "failed"',
  },
  run: { word: 'Runs', hint: 'filter of runs of all streams, as in failed gt 0' },
  test: { word: 'Tests', hint: 'filter of tests of all streams, as in suite co "fares"' },
};

/** Runs, results or tests of all streams: what a number leads to, and what a filter finds. */
export function FoundPage({ project, search }: { project: string; search: FoundSearch }) {
  useRunNews(project);
  const navigate = useNavigate();
  const change = (next: Partial<FoundSearch>) =>
    void navigate({
      to: '/$project/found',
      params: { project },
      search: cleaned({ ...search, ...next }) as FoundSearch,
      replace: true,
    });
  const place = readFoundKey(search.chosen);
  const head = (
    <header className="shrink-0 space-y-2 px-5 pt-4 pb-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="font-serif text-2xl">Found</h1>
        <nav aria-label="What is found" className="flex gap-1">
          {(['result', 'run', 'test'] as const).map((of) => (
            <button
              key={of}
              type="button"
              aria-current={search.of === of ? 'page' : undefined}
              className={`btn btn-sm ${search.of === of ? 'btn-neutral' : 'btn-ghost'}`}
              // A filter of one is none of the other.
              onClick={() => search.of !== of && change({ of, filter: '', chosen: undefined })}
            >
              {SAID[of].word}
            </button>
          ))}
        </nav>
        <HowMany project={project} of={search.of} filter={search.filter} />
      </div>
      <FilterBox
        key={search.of}
        project={project}
        of={search.of}
        filter={search.filter}
        onChange={(filter) => change({ filter, chosen: undefined })}
        placeholder={SAID[search.of].hint}
      />
    </header>
  );
  if (search.of !== 'result') {
    const List = search.of === 'run' ? FoundRuns : FoundTests;
    return (
      <main className="flex min-h-0 grow flex-col">
        {head}
        <List project={project} filter={search.filter} />
      </main>
    );
  }
  return (
    <SplitPage head={head}>
      <section
        aria-label="Results"
        className="flex min-h-0 flex-col border-base-300 max-[899px]:h-[60vh] max-[899px]:shrink-0 min-[900px]:border-r"
      >
        <FoundResults
          project={project}
          filter={search.filter}
          chosen={search.chosen}
          onChoose={(chosen) => change({ chosen })}
        />
      </section>
      {place ? (
        <Chosen key={search.chosen} project={project} place={place} />
      ) : (
        <Empty title="No result chosen">
          Choose one with <kbd className="kbd kbd-sm">j</kbd> and{' '}
          <kbd className="kbd kbd-sm">k</kbd>.
        </Empty>
      )}
    </SplitPage>
  );
}

function HowMany({
  project,
  of,
  filter,
}: {
  project: string;
  of: FoundSearch['of'];
  filter: string;
}) {
  const counted = useQuery(filterCountQuery(project, of, filter));
  return (
    <p role="status" className="text-[15px] text-quiet">
      {counted.data === undefined
        ? ''
        : counted.data.all
          ? plural(counted.data.number, of)
          : `at least ${count(counted.data.number)}: there is too much to count it all`}
    </p>
  );
}

function Chosen({ project, place }: { project: string; place: FoundPlace }) {
  const navigate = useNavigate();
  const run = useQuery(runQuery(project, place.stream, place.number));
  if (run.isPending) {
    return <Loading lines={8} />;
  }
  if (run.error) {
    return <Failed error={run.error} retry={() => run.refetch()} />;
  }
  return (
    <ResultPanel
      project={project}
      run={run.data}
      result={place.result}
      attempt={undefined}
      onAttempt={(attempt) =>
        void navigate({
          to: '/$project/runs/$',
          params: { project, _splat: `${place.stream}/${place.number}` },
          search: { result: place.result, attempt },
        })
      }
      label="Result"
      beside={false}
    />
  );
}
