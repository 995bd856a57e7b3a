import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { FilterBox } from '../../shared/filter/FilterBox';
import type { Cell } from '../../shared/sheets/api';
import { LateChart } from '../../shared/sheets/LateChart';
import { placeOf } from '../../shared/sheets/place';
import { Failed, Loading } from '../../shared/ui/States';
import { type Report, reportQuery, type Table } from './api';
import { KINDS, latest, type ReportSearch } from './model';
import { ReportTable } from './ReportTable';
import { TakeAlong } from './TakeAlong';

const USUAL_DAYS = 30;
const LENGTHS = [7, 14, 30, 90, 365];

/** What happened over a time, to read and to take along. */
export function ReportsPage(props: { project: string; search: ReportSearch }) {
  const { project, search } = props;
  const navigate = useNavigate();
  const report = useQuery(reportQuery(project, search));
  const kind = search.kind ?? 'summary';
  const go = (next: Partial<ReportSearch>) =>
    void navigate({
      to: '/$project/reports',
      params: { project },
      search: { ...search, ...next },
    });
  return (
    <main className="min-h-0 grow overflow-y-auto">
      <div className="mx-auto max-w-7xl px-6 py-6">
        <header className="flex flex-wrap items-end gap-x-6 gap-y-3">
          <h1 className="font-serif text-3xl">Reports</h1>
          <nav aria-label="Reports" className="flex gap-1">
            {KINDS.map(([one, title]) => (
              <Link
                key={one}
                to="/$project/reports"
                params={{ project }}
                search={{ ...search, kind: one }}
                aria-current={one === kind ? 'page' : undefined}
                className={`btn btn-sm ${one === kind ? 'btn-active' : 'btn-ghost'}`}
              >
                {title}
              </Link>
            ))}
          </nav>
          <div className="ml-auto">
            {report.data && !report.error ? (
              <TakeAlong project={project} search={search} report={report.data} />
            ) : null}
          </div>
        </header>
        <div className="mt-4 flex flex-wrap items-center gap-3">
          <Days search={search} go={go} />
          {kind === 'breakdown' ? <By key={search.by} search={search} go={go} /> : null}
          {kind === 'people' ? null : (
            <div className="min-w-80 grow">
              <FilterBox
                project={project}
                of="run"
                filter={search.filter ?? ''}
                onChange={(filter) => go({ filter: filter === '' ? undefined : filter })}
                placeholder='of runs, as in stream ew "/nightly"'
              />
            </div>
          )}
        </div>
        {report.error ? (
          <div className="mt-6">
            <Failed error={report.error} retry={() => report.refetch()} />
          </div>
        ) : report.data === undefined ? (
          <div className="mt-6">
            <Loading lines={8} />
          </div>
        ) : (
          <div className={report.isPlaceholderData ? 'opacity-50' : ''}>
            {report.data.tables.map((table) => (
              <Section key={table.word} project={project} table={table} report={report.data} />
            ))}
          </div>
        )}
      </div>
    </main>
  );
}

/** The latest days, or from one day to another. */
function Days({ search, go }: { search: ReportSearch; go: (next: Partial<ReportSearch>) => void }) {
  const own = search.from !== undefined;
  const days = search.days ?? USUAL_DAYS;
  const lengths = LENGTHS.includes(days) ? LENGTHS : [...LENGTHS, days].sort((a, b) => a - b);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <select
        className="select select-sm w-36"
        aria-label="Time"
        value={own ? 'own' : days}
        onChange={(e) =>
          e.target.value === 'own'
            ? go({ days: undefined, ...latest(days, new Date()) })
            : go({ days: Number(e.target.value), from: undefined, to: undefined })
        }
      >
        {lengths.map((one) => (
          <option key={one} value={one}>
            {one === 365 ? 'a year' : `${one} days`}
          </option>
        ))}
        <option value="own">from … to …</option>
      </select>
      {own ? (
        <>
          <Day name="From" value={search.from ?? ''} onChange={(from) => go({ from })} />
          <span className="text-quiet">to</span>
          <Day name="To" value={search.to ?? ''} onChange={(to) => go({ to })} />
        </>
      ) : null}
    </div>
  );
}

/** A day, told when it is a whole one. */
function Day(props: { name: string; value: string; onChange: (value: string) => void }) {
  const [typed, setTyped] = useState<string>();
  return (
    <input
      type="date"
      className="input input-sm w-38"
      aria-label={props.name}
      value={typed ?? props.value}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={() => {
        if (typed !== undefined && typed !== '') {
          props.onChange(typed);
        }
        setTyped(undefined);
      }}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
    />
  );
}

/** What runs are told apart by. */
function By({ search, go }: { search: ReportSearch; go: (next: Partial<ReportSearch>) => void }) {
  const [typed, setTyped] = useState(search.by ?? 'label.env');
  const apply = () => {
    const by = typed
      .split(/[\s,]+/)
      .filter((word) => word !== '')
      .join(',');
    if (by !== (search.by ?? 'label.env')) {
      go({ by: by === '' ? undefined : by });
    }
  };
  return (
    <label className="input input-sm w-56">
      <span className="text-quiet">by</span>
      <input
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={apply}
        onKeyDown={(e) => e.key === 'Enter' && apply()}
        placeholder="label.env, stream"
        spellCheck={false}
      />
    </label>
  );
}

function Section(props: { project: string; table: Table; report: Report }) {
  const { project, table } = props;
  const [inNumbers, setInNumbers] = useState(false);
  const navigate = useNavigate();
  const chart = table.word === 'days' && table.sheet.rows.length > 1;
  const open = (cell: Cell) => {
    if (cell.link) {
      void navigate(placeOf(project, cell.link));
    }
  };
  return (
    <section className="mt-8" aria-label={table.title}>
      <div className="mb-2 flex items-baseline gap-3">
        <h2 className="font-serif text-xl">{table.title}</h2>
        {chart ? (
          <button
            type="button"
            className="btn btn-xs btn-ghost"
            aria-pressed={inNumbers}
            onClick={() => setInNumbers(!inNumbers)}
          >
            {inNumbers ? 'As a chart' : 'In numbers'}
          </button>
        ) : null}
      </div>
      {table.note === '' ? null : <p className="mb-2 text-sm text-quiet">{table.note}</p>}
      {table.sheet.rows.length === 0 ? (
        <p className="text-quiet">Nothing.</p>
      ) : chart && !inNumbers ? (
        <div className="flex h-64 flex-col">
          <LateChart
            project={project}
            sheet={table.sheet}
            panel={{ kind: 'outcomes', step: table.title === 'Day by day' ? 'day' : 'week' }}
            title={table.title}
            onOpen={open}
          />
        </div>
      ) : (
        <ReportTable
          project={project}
          sheet={table.sheet}
          title={table.title}
          turned={table.word === 'all'}
        />
      )}
      {table.sheet.left !== 0 ? (
        <p className="mt-1 text-[13px] text-quiet">
          {table.sheet.left > 0 ? `${table.sheet.left} more` : 'More'} follow; a file to take along
          has them.
        </p>
      ) : null}
    </section>
  );
}
