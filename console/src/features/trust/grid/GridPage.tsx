import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { FilterBox } from '../../../shared/filter/FilterBox';
import { useRunNews } from '../../../shared/runs/news';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { gridQuery, streamNamesQuery } from '../api';
import { cleaned, type GridSearch } from '../model';
import { GridTable } from './GridTable';
import { Legend } from './Legend';

/** Tests by runs: a red column is a bad night, a red row a broken test, a checkered one a flaky one. */
export function GridPage({ project, search }: { project: string; search: GridSearch }) {
  useRunNews(project);
  const navigate = useNavigate();
  const streams = useQuery(streamNamesQuery(project));
  const stream = search.stream ?? streams.data?.[0];
  const grid = useQuery({
    ...gridQuery(project, stream ?? '', search.filter ?? '', search.run),
    enabled: stream !== undefined,
  });
  const [says, setSays] = useState('');
  const change = (next: Partial<GridSearch>) =>
    void navigate({
      to: '/$project/tests/grid',
      params: { project },
      search: cleaned({ ...search, ...next }),
      replace: true,
    });
  return (
    <main className="flex min-h-0 grow flex-col">
      <header className="shrink-0 space-y-3 border-b border-base-300 px-5 pt-4 pb-3">
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <h1 className="font-serif text-2xl">Tests by runs</h1>
          <p className="text-[15px] text-quiet">
            {search.run === undefined
              ? 'those that failed most first'
              : `those that fail in #${search.run}, and the runs up to it`}
          </p>
          {search.run === undefined ? null : (
            <button type="button" className="link" onClick={() => change({ run: undefined })}>
              all tests
            </button>
          )}
          <span className="ml-auto flex items-baseline gap-4 text-sm">
            <Link to="/$project/tests" params={{ project }} className="link">
              lists
            </Link>
            <label className="flex items-baseline gap-2">
              <span className="text-quiet">of</span>
              <select
                className="select select-sm w-auto"
                value={stream ?? ''}
                onChange={(e) => change({ stream: e.target.value, run: undefined })}
              >
                {(streams.data ?? []).map((name) => (
                  <option key={name} value={name}>
                    {name}
                  </option>
                ))}
              </select>
            </label>
          </span>
        </div>
        <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
          <div className="w-full max-w-md">
            <FilterBox
              project={project}
              of="test"
              filter={search.filter ?? ''}
              onChange={(filter) => change({ filter: filter === '' ? undefined : filter })}
              placeholder='filter of tests, as in suite co "fares"'
            />
          </div>
          <Legend />
        </div>
        <p className="h-5 truncate text-sm" role="status" title={says}>
          {says === '' ? (
            <span className="text-quiet">
              Point at a cell, or go there with the arrow keys; Enter opens it.
            </span>
          ) : (
            says
          )}
        </p>
      </header>
      {streams.data?.length === 0 ? (
        <Empty title="No stream yet">The first run makes one.</Empty>
      ) : grid.error ? (
        <Failed error={grid.error} retry={() => grid.refetch()} />
      ) : grid.data === undefined || stream === undefined ? (
        <Loading lines={10} />
      ) : grid.data.tests.length === 0 ? (
        <Empty title="No test">
          {search.run === undefined
            ? 'No test fits the filter in these runs.'
            : 'Nothing fails in that run that fits the filter.'}
        </Empty>
      ) : (
        <GridTable project={project} stream={stream} grid={grid.data} onSay={setSays} />
      )}
    </main>
  );
}
