import { useQuery } from '@tanstack/react-query';
import { Link, Navigate, useNavigate } from '@tanstack/react-router';
import { SplitPage } from '../../../shared/layout/SplitPage';
import { streamQuery, streamsQuery } from '../../../shared/runs/api';
import { useRunNews } from '../../../shared/runs/news';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import type { Stream } from '../api';
import { ChangesLine } from '../components/ChangesLine';
import { CountsLine } from '../components/CountsLine';
import { byNeed, type RunsSearch } from '../model';
import { MissingRun } from './MissingRun';
import { RunStrip } from './RunStrip';
import { StreamPanel } from './StreamPanel';

export function RunsPage({ project, search }: { project: string; search: RunsSearch }) {
  useRunNews(project);
  const navigate = useNavigate();
  const streams = useQuery(streamsQuery(project));
  if (streams.isPending) {
    return <Loading lines={8} />;
  }
  if (streams.error) {
    return <Failed page error={streams.error} retry={() => streams.refetch()} />;
  }
  const sorted = byNeed(streams.data);
  if (!sorted[0]) {
    return <NoRuns project={project} />;
  }
  const shown = search.stream ? sorted.find((stream) => stream.name === search.stream) : sorted[0];
  return (
    <SplitPage>
      <section
        aria-label="Streams"
        className="min-h-0 border-base-300 max-[899px]:shrink-0 min-[900px]:overflow-y-auto min-[900px]:border-r"
      >
        <div className="flex items-baseline justify-between px-5 pt-5 pb-3">
          <h1 className="font-serif text-2xl">Runs</h1>
          <ConnectLink project={project} className="link text-sm" />
        </div>
        <ul className="border-t border-base-300">
          {sorted.map((stream) => (
            <StreamRow
              key={stream.name}
              project={project}
              stream={stream}
              selected={stream.name === shown?.name}
              filter={search.filter}
            />
          ))}
        </ul>
      </section>
      {shown ? (
        <StreamPanel
          key={shown.name}
          project={project}
          stream={shown}
          filter={search.filter ?? ''}
          onFilter={(filter) =>
            void navigate({
              to: '/$project/runs',
              params: { project },
              search: { stream: shown.name, ...(filter ? { filter } : {}) },
              replace: true,
            })
          }
        />
      ) : (
        <UnknownStream project={project} name={search.stream ?? ''} />
      )}
    </SplitPage>
  );
}

/** It may be a name of before; then that stream is shown. */
function UnknownStream({ project, name }: { project: string; name: string }) {
  const found = useQuery(streamQuery(project, name));
  if (found.isPending) {
    return <Loading />;
  }
  return found.data ? (
    <Navigate
      to="/$project/runs"
      params={{ project }}
      search={{ stream: found.data.name }}
      replace
    />
  ) : (
    <Empty title={`There is no stream “${name}”`}>
      It may have been deleted, or nothing was sent to it yet.
    </Empty>
  );
}

function StreamRow(props: {
  project: string;
  stream: Stream;
  selected: boolean;
  filter: string | undefined;
}) {
  const { project, stream, selected, filter } = props;
  return (
    <li
      className={`border-b border-base-300 px-5 py-3 ${
        selected ? 'bg-base-200 shadow-[inset_3px_0_0_var(--color-primary)]' : ''
      }`}
    >
      <div className="flex items-baseline gap-3">
        <Link
          to="/$project/runs"
          params={{ project }}
          search={{ stream: stream.name, ...(filter ? { filter } : {}) }}
          className="link-hover min-w-0 truncate font-semibold"
          aria-current={selected ? 'true' : undefined}
          title={stream.name}
        >
          {stream.name}
        </Link>
        <span className="ml-auto shrink-0 text-sm text-quiet">
          <RelativeTime iso={stream.latest.startedAt} />
        </span>
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-x-4">
        <Link
          to="/$project/runs/$"
          params={{ project, _splat: `${stream.name}/${stream.latest.number}` }}
          className="link-hover text-quiet"
        >
          #{stream.latest.number}
        </Link>
        <CountsLine counts={stream.latest.counts} />
        <span className="text-sm">
          <ChangesLine changes={stream.latest.changes} />
        </span>
      </div>
      <MissingRun stream={stream} />
      <div className="-ml-0.5 mt-1">
        <RunStrip
          project={project}
          stream={stream.name}
          points={stream.strip}
          current={stream.latest.number}
        />
      </div>
    </li>
  );
}

function NoRuns({ project }: { project: string }) {
  return (
    <main className="grow overflow-y-auto">
      <Empty title="No run has arrived yet" page>
        <p>Each appears here as soon as a pipeline has sent it.</p>
        <p className="mt-4">
          <ConnectLink project={project} className="btn btn-primary" />
        </p>
      </Empty>
    </main>
  );
}

function ConnectLink({ project, className }: { project: string; className: string }) {
  return (
    <Link to="/$project/connect" params={{ project }} className={className}>
      Connect a pipeline
    </Link>
  );
}
