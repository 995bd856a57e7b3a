import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import { PencilLine, Settings2, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { FilterBox } from '../../../shared/filter/FilterBox';
import { duration, plural } from '../../../shared/lib/format';
import { streamQuery } from '../../../shared/runs/api';
import { useMayEdit, useOwns } from '../../../shared/session/may';
import { OutcomeGlyph } from '../../../shared/ui/OutcomeGlyph';
import { QuietButton } from '../../../shared/ui/QuietButton';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { deleteStream, type Run, runsQuery, type Stream } from '../api';
import { ChangesLine } from '../components/ChangesLine';
import { CountsLine } from '../components/CountsLine';
import { DeleteDialog } from '../components/DeleteDialog';
import { RunAbout } from '../components/RunAbout';
import { worst } from '../model';
import { MissingRun } from './MissingRun';
import { RenameDialog } from './RenameDialog';
import { SettingsDialog } from './SettingsDialog';
import { Trend } from './Trend';

/** One stream: its trend from the first run on, and its runs. */
export function StreamPanel(props: {
  project: string;
  stream: Stream;
  filter: string;
  onFilter: (filter: string) => void;
}) {
  const { project, stream, filter } = props;
  const [dialog, setDialog] = useState<'settings' | 'rename' | 'delete'>();
  const navigate = useNavigate();
  const owns = useOwns(project);
  const mayEdit = useMayEdit(project);
  const trend = useQuery(streamQuery(project, stream.name));
  const runs = useInfiniteQuery(runsQuery(project, stream.name, filter));
  const rows = runs.data?.pages.flatMap((page) => page.items) ?? [];
  return (
    <section
      aria-label={`Stream ${stream.name}`}
      className="flex min-h-0 flex-col p-5 max-[899px]:shrink-0 min-[900px]:overflow-y-auto"
    >
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="min-w-0 truncate font-serif text-2xl" title={stream.name}>
          {stream.name}
        </h2>
        <span className="text-quiet">{plural(stream.runCount, 'run')}</span>
        <span className="ml-auto flex gap-3">
          {mayEdit ? (
            <QuietButton icon={Settings2} word="settings" onClick={() => setDialog('settings')} />
          ) : null}
          {owns ? (
            <>
              <QuietButton icon={PencilLine} word="rename" onClick={() => setDialog('rename')} />
              <QuietButton icon={Trash2} word="delete" onClick={() => setDialog('delete')} />
            </>
          ) : null}
        </span>
      </div>
      <MissingRun stream={stream} />
      {dialog === 'settings' ? (
        <SettingsDialog
          project={project}
          stream={stream.name}
          onClose={() => setDialog(undefined)}
        />
      ) : null}
      {dialog === 'rename' ? (
        <RenameDialog project={project} stream={stream} onClose={() => setDialog(undefined)} />
      ) : null}
      {dialog === 'delete' ? (
        <DeleteDialog
          project={project}
          title={`Delete ${stream.name}?`}
          name={stream.name}
          onDelete={() => deleteStream(project, stream.name)}
          onDeleted={() => {
            setDialog(undefined);
            void navigate({ to: '/$project/runs', params: { project }, search: {} });
          }}
          onClose={() => setDialog(undefined)}
        >
          {plural(stream.runCount, 'run')} with all results and files go, for everybody and for
          good. What pipelines send to this name from now on begins a stream anew.
        </DeleteDialog>
      ) : null}
      <div className="mt-3">
        {trend.isPending ? <div className="skeleton h-32" /> : null}
        {trend.error ? <Failed error={trend.error} retry={() => trend.refetch()} /> : null}
        {trend.data ? <Trend points={trend.data.trend ?? []} /> : null}
      </div>
      <div className="mt-4">
        <FilterBox
          project={project}
          of="run"
          filter={filter}
          onChange={props.onFilter}
          placeholder={'Filter these runs, as in  failed gt 0 and started gt "-P7D"'}
        />
      </div>
      {runs.isPending ? <Loading /> : null}
      {runs.error ? <Failed error={runs.error} /> : null}
      {runs.data && rows.length === 0 ? (
        <Empty title="No run fits">Ask for less, or for something else.</Empty>
      ) : null}
      {rows.length > 0 ? (
        <table className="table table-sm mt-4">
          <thead>
            <tr>
              <th>Run</th>
              <th>Results</th>
              <th>Since the run before</th>
              <th className="max-[1100px]:hidden">Commit</th>
              <th className="text-right">Test time</th>
              <th className="text-right">Started</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((run) => (
              <RunRow key={run.id} project={project} run={run} />
            ))}
          </tbody>
        </table>
      ) : null}
      {runs.hasNextPage ? (
        <button
          type="button"
          className="btn btn-sm mt-4 self-center"
          onClick={() => runs.fetchNextPage()}
          disabled={runs.isFetchingNextPage}
        >
          Older runs
        </button>
      ) : null}
    </section>
  );
}

function RunRow({ project, run }: { project: string; run: Run }) {
  return (
    <tr className="hover:bg-base-200">
      <td className="whitespace-nowrap">
        <Link
          to="/$project/runs/$"
          params={{ project, _splat: `${run.stream}/${run.number}` }}
          className="link-hover inline-flex items-center gap-2 font-semibold"
        >
          <OutcomeGlyph outcome={worst(run.counts)} />#{run.number}
        </Link>
        {run.open ? <span className="badge badge-sm ml-2">open</span> : null}
        <span className="flex max-w-44 flex-col text-xs text-quiet">
          <RunAbout labels={run.labels} />
        </span>
      </td>
      <td className="whitespace-nowrap">
        <CountsLine counts={run.counts} />
      </td>
      <td>
        <ChangesLine changes={run.changes} />
      </td>
      <td className="max-[1100px]:hidden">
        {run.branch ? (
          <span className="block max-w-32 truncate text-xs text-quiet" title={run.branch}>
            {run.branch}
          </span>
        ) : null}
        {run.commit ? <code title={run.commit}>{run.commit.slice(0, 9)}</code> : null}
      </td>
      <td className="text-right whitespace-nowrap tabular-nums">{duration(run.testTimeMs)}</td>
      <td className="text-right">
        <RelativeTime iso={run.startedAt} />
      </td>
    </tr>
  );
}
