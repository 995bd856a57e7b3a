import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Navigate, useNavigate } from '@tanstack/react-router';
import { useCallback, useEffect, useRef, useState } from 'react';
import { SplitPage } from '../../../shared/layout/SplitPage';
import { useKey } from '../../../shared/lib/keys';
import { runKeys } from '../../../shared/runs/keys';
import { useRunNews } from '../../../shared/runs/news';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { type Result, type Run, runQuery } from '../api';
import { type Bundle, bundlesQuery } from '../bundles/api';
import { BundleFrame } from '../bundles/BundleFrame';
import { GroupList } from '../groups/GroupList';
import { cleaned, type RunSearch } from '../model';
import { ResultArea } from '../result/ResultArea';
import { DifferenceList } from '../results/DifferenceList';
import { FilterBar } from '../results/FilterBar';
import { GoneList } from '../results/GoneList';
import { narrow, type Quick } from '../results/quick';
import { ResultList } from '../results/ResultList';
import { SuiteTree } from '../results/SuiteTree';
import { RunHead } from './RunHead';

export function RunPage(props: {
  project: string;
  stream: string;
  number: number;
  search: RunSearch;
}) {
  const run = useQuery(runQuery(props.project, props.stream, props.number));
  if (run.isPending) {
    return <Loading lines={10} />;
  }
  if (run.error) {
    return <Failed page error={run.error} retry={() => run.refetch()} />;
  }
  const found = run.data;
  // It was renamed or moved: what is shown, and what is linked from it, is called as it is now.
  return found.stream === props.stream && found.number === props.number ? (
    <LoadedRun project={props.project} run={found} search={props.search} />
  ) : (
    <Navigate
      to="/$project/runs/$"
      params={{ project: props.project, _splat: `${found.stream}/${found.number}` }}
      search={props.search}
      replace
    />
  );
}

function LoadedRun({ project, run, search }: { project: string; run: Run; search: RunSearch }) {
  useRunNews(project, run.id);
  const navigate = useNavigate();
  const client = useQueryClient();
  // Causes come a moment after the results; that is no other version of the run.
  const explained = useRef(run.explained);
  useEffect(() => {
    if (run.explained && !explained.current) {
      void client.invalidateQueries({ queryKey: runKeys.results(project) });
    }
    explained.current = run.explained;
  }, [run.explained, client, project]);
  const [firstShown, setFirstShown] = useState<string>();
  const change = useCallback(
    (next: Partial<RunSearch>) =>
      navigate({
        to: '/$project/runs/$',
        params: { project, _splat: `${run.stream}/${run.number}` },
        search: (before: RunSearch) => cleaned({ ...before, ...next }),
        replace: true,
      }),
    [navigate, project, run.stream, run.number],
  );
  const select = useCallback(
    (result: Result) => {
      void change({ result: result.id, attempt: undefined });
    },
    [change],
  );
  // While results still arrive, what is shown stays where it is.
  const showFirst = useCallback(
    (first: string | undefined) => setFirstShown((before) => (run.open && before ? before : first)),
    [run.open],
  );
  useKey('g', () => void change({ view: search.view === 'groups' ? undefined : 'groups' }));
  useKey('s', () => void change({ view: search.view === 'suites' ? undefined : 'suites' }));
  const selected = search.result ?? firstShown;
  const filter = search.filter ?? '';
  const onQuick = useCallback(
    (next: Partial<Quick>) =>
      void change({
        filter: narrow(filter, next),
        view: search.view === 'suites' ? 'suites' : undefined,
      }),
    [change, filter, search.view],
  );
  const bundles = useQuery(bundlesQuery(project, run));
  const bundle = bundles.data?.find((one) => one.id === search.bundle);
  const head = (
    <>
      <RunHead
        project={project}
        run={run}
        against={search.against}
        onAgainst={(against) =>
          void change({ against, view: against === undefined ? undefined : 'differences' })
        }
        onChange={(word) =>
          search.against !== undefined
            ? void change({ view: 'differences' })
            : word === 'gone'
              ? void change({ view: 'gone' })
              : onQuick({ change: word })
        }
        onOverruled={() => onQuick({ overruled: true })}
      />
      {bundles.data && bundles.data.length > 0 ? (
        <RunTabs
          bundles={bundles.data}
          chosen={bundle?.id}
          onChoose={(id) => change({ bundle: id })}
        />
      ) : null}
    </>
  );
  if (bundle) {
    return (
      <main className="flex min-h-0 grow flex-col">
        {head}
        <BundleFrame key={bundle.id} bundle={bundle} />
      </main>
    );
  }
  return (
    <SplitPage head={head} narrowList={search.pin !== undefined}>
      <section
        aria-label="Results"
        className="flex min-h-0 flex-col border-base-300 max-[899px]:h-[28rem] max-[899px]:shrink-0 max-[899px]:border-b min-[900px]:border-r"
      >
        <FilterBar
          project={project}
          counts={run.counts}
          filter={filter}
          view={search.view}
          onQuick={onQuick}
          onFilter={(next) =>
            void change({ filter: next, view: search.view === 'suites' ? 'suites' : undefined })
          }
          onView={(view) => void change({ view })}
        />
        {search.view === 'groups' ? (
          <GroupList
            project={project}
            run={run}
            selected={search.group}
            onSelect={(one) =>
              void change({ group: one.group, result: one.first, attempt: undefined })
            }
            onResults={(one) => void change({ view: undefined, filter: `group eq ${one.group}` })}
            onFirst={showFirst}
          />
        ) : search.view === 'differences' && search.against !== undefined ? (
          <DifferenceList
            project={project}
            run={run}
            against={search.against}
            selected={selected}
            onSelect={(result) => void change({ result, attempt: undefined })}
          />
        ) : search.view === 'gone' ? (
          <GoneList project={project} run={run} />
        ) : search.view === 'suites' ? (
          <SuiteTree project={project} run={run} filter={filter} selected={selected} />
        ) : (
          <ResultList
            project={project}
            run={run}
            filter={filter}
            selected={selected}
            onSelect={select}
            onFirst={showFirst}
          />
        )}
      </section>
      {selected ? (
        <ResultArea
          project={project}
          run={run}
          result={selected}
          search={search}
          onChange={change}
        />
      ) : (
        <Empty title="Choose a result">It is shown here, with all that its file told.</Empty>
      )}
    </SplitPage>
  );
}

/** The results, and the pages that jobs made themselves. */
function RunTabs(props: {
  bundles: Bundle[];
  chosen: number | undefined;
  onChoose: (bundle: number | undefined) => void;
}) {
  const tabs = [{ id: undefined, title: 'Results' }, ...props.bundles];
  return (
    <div role="tablist" aria-label="Views of the run" className="flex gap-1 px-5">
      {tabs.map((tab) => (
        <button
          key={tab.id ?? 'results'}
          type="button"
          role="tab"
          aria-selected={tab.id === props.chosen}
          onClick={() => props.onChoose(tab.id)}
          className={`max-w-60 truncate border-b-2 px-3 py-1.5 ${
            tab.id === props.chosen
              ? 'border-primary font-semibold text-primary'
              : 'border-transparent hover:bg-base-200'
          }`}
        >
          {tab.title}
        </button>
      ))}
    </div>
  );
}
