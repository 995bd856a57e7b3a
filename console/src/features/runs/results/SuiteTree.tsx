import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { ChevronRight } from 'lucide-react';
import { useState } from 'react';
import { categoriesQuery } from '../../../shared/triage/api';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { NO_SUITE, type Run, resultsQuery, type Suite, suitesQuery } from '../api';
import { CountsLine } from '../components/CountsLine';
import { ResultLink } from './ResultLink';
import { ResultRow } from './ResultRow';

interface TreeProps {
  project: string;
  run: Run;
  filter: string;
  selected: string | undefined;
}

/** The results that the filter lets through as their files nest them, fetched level by level. */
export function SuiteTree(props: TreeProps) {
  return (
    <div
      className="min-h-0 grow overflow-y-auto py-1"
      tabIndex={0}
      role="group"
      aria-label="Suites"
    >
      <Level {...props} parent={undefined} />
      <Results {...props} suite={NO_SUITE} />
      <NothingFits {...props} />
    </div>
  );
}

function NothingFits({ project, run, filter }: TreeProps) {
  const suites = useQuery(suitesQuery(project, run, undefined, filter));
  const loose = useInfiniteQuery(resultsQuery(project, run, filter, NO_SUITE));
  const nothing = suites.data?.length === 0 && loose.data?.pages[0]?.items.length === 0;
  return nothing ? (
    <Empty title="No result fits">Ask for less, or for something else.</Empty>
  ) : null;
}

function Level(props: TreeProps & { parent: number | undefined }) {
  const suites = useQuery(suitesQuery(props.project, props.run, props.parent, props.filter));
  if (suites.isPending) {
    return <Loading lines={2} />;
  }
  if (suites.error) {
    return <Failed error={suites.error} />;
  }
  return (
    <ul>
      {suites.data.map((suite, i) => (
        <Node key={suite.id} {...props} suite={suite} atOnce={i === 0} />
      ))}
    </ul>
  );
}

function Node({ suite, atOnce, ...props }: TreeProps & { suite: Suite; atOnce: boolean }) {
  const [open, setOpen] = useState(atOnce);
  return (
    <li>
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="flex w-full cursor-pointer items-baseline gap-2 px-3 py-1.5 text-left hover:bg-base-200"
      >
        <ChevronRight
          size={14}
          aria-hidden
          className={`shrink-0 self-center ${open ? 'rotate-90' : ''}`}
        />
        <span className="min-w-0 grow truncate" title={suite.name}>
          {suite.name}
        </span>
        <span className="shrink-0 text-sm">
          <CountsLine counts={suite.counts} />
        </span>
      </button>
      {open ? (
        <div className="ml-[18px] border-l border-base-300 pl-1">
          {suite.hasSuites ? <Level {...props} parent={suite.id} /> : null}
          <Results {...props} suite={suite.id} />
        </div>
      ) : null}
    </li>
  );
}

function Results(props: TreeProps & { suite: number }) {
  const query = useInfiniteQuery(resultsQuery(props.project, props.run, props.filter, props.suite));
  const categories = useQuery(categoriesQuery(props.project));
  const rows = query.data?.pages.flatMap((page) => page.items) ?? [];
  return (
    <>
      <ul>
        {rows.map((row) => (
          <li key={row.id}>
            <ResultLink
              project={props.project}
              run={props.run}
              result={row}
              selected={row.id === props.selected}
              className="px-3 py-1.5"
              everyTab
            >
              <ResultRow result={row} withSuite={false} categories={categories.data} />
            </ResultLink>
          </li>
        ))}
      </ul>
      {query.hasNextPage ? (
        <button type="button" className="btn btn-xs m-2" onClick={() => query.fetchNextPage()}>
          More of this suite
        </button>
      ) : null}
    </>
  );
}
