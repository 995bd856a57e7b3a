import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import {
  ChevronRight,
  ExternalLink,
  FolderOutput,
  GitBranch,
  GitCommitHorizontal,
  PencilLine,
  Trash2,
} from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { NoteDialog } from '../../../shared/edits/NoteDialog';
import { NoteWords } from '../../../shared/edits/NoteWords';
import { duration, plural } from '../../../shared/lib/format';
import { useMayEdit, useOwns } from '../../../shared/session/may';
import { groupsInRunQuery } from '../../../shared/triage/api';
import { OutageLine } from '../../../shared/triage/OutageLine';
import { CopyButton } from '../../../shared/ui/CopyButton';
import { MarkdownText } from '../../../shared/ui/MarkdownText';
import { QuietButton } from '../../../shared/ui/QuietButton';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { deleteRun, partsQuery, quarantinedQuery, type Run } from '../api';
import { DeleteDialog } from '../components/DeleteDialog';
import { RunAbout } from '../components/RunAbout';
import { failingWords, mayBeOut, needsALook, partNames, type RunSearch, runAbout } from '../model';
import { MoveDialog } from './MoveDialog';
import { PartTable } from './PartTable';
import { RunningNow } from './RunningNow';
import { Since } from './Since';

/** What the run is, what it came to, and what changed. */
export function RunHead(props: {
  project: string;
  run: Run;
  /** The number of a run that somebody chose to compare with. */
  against: number | undefined;
  onAgainst: (number: number | undefined) => void;
  onChange: (change: string) => void;
  onOverruled: () => void;
}) {
  const { project, run } = props;
  const [open, setOpen] = useState(false);
  const [dialog, setDialog] = useState<'note' | 'move' | 'delete'>();
  const navigate = useNavigate();
  const owns = useOwns(project);
  const mayEdit = useMayEdit(project);
  const parts = useQuery(partsQuery(project, run));
  const problems = parts.data?.reduce(
    (n, part) => n + part.files.reduce((m, file) => m + file.problems.length, 0),
    0,
  );
  return (
    <header className="shrink-0 px-5 pt-4 pb-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="min-w-0 font-serif text-2xl">
          <Link
            to="/$project/runs"
            params={{ project }}
            search={{ stream: run.stream }}
            className="link-hover"
          >
            {run.stream}
          </Link>{' '}
          <span className="text-quiet">#{run.number}</span>
        </h1>
        {run.open ? (
          <span className="badge badge-sm gap-1 self-center">
            <span className="status status-primary animate-pulse" aria-hidden />
            open, results may still come
          </span>
        ) : null}
        <p className="font-serif text-xl">
          {run.open && run.counts.tests + run.counts.setUps === 0 ? (
            <span className="text-quiet">waiting for the first result</span>
          ) : (
            <span className={needsALook(run.counts) ? 'text-failed' : 'text-passed'}>
              {failingWords(run.counts)}
              {run.open && !needsALook(run.counts) ? ' yet' : ''}
            </span>
          )}
          {run.counts.tests === 0 ? (
            run.open ? null : (
              <span className="text-base text-quiet">, and no test came</span>
            )
          ) : (
            <span className="text-base text-quiet">
              {run.counts.setUps > 0 && run.counts.failed + run.counts.errored === 0
                ? ', with '
                : ' of '}
              {plural(run.counts.tests, 'test')}
            </span>
          )}
        </p>
        {run.closedBy === 'silence' ? (
          <span
            className="badge badge-sm badge-ghost self-center"
            title="Its parts did not say that they were all there"
          >
            closed after a silence
          </span>
        ) : null}
        <Neighbours project={project} run={run} />
      </div>
      <p className="mt-1.5 flex flex-wrap items-center gap-x-2 gap-y-1">
        <Since
          project={project}
          run={run}
          against={props.against}
          onAgainst={props.onAgainst}
          onChange={props.onChange}
        />
        {run.overruled > 0 ? (
          <button
            type="button"
            className="btn btn-xs font-normal"
            title="Somebody set another outcome than the reported one"
            onClick={props.onOverruled}
          >
            {run.overruled} overruled
          </button>
        ) : null}
      </p>
      {run.counts.failed + run.counts.errored + run.counts.setUps > 0 ? (
        <Quarantined project={project} run={run} />
      ) : null}
      {mayBeOut(run.counts) ? <RunOutage project={project} run={run} /> : null}
      <div className="mt-1.5 flex flex-wrap items-center gap-x-4 gap-y-1 text-sm text-quiet">
        <span>
          started <RelativeTime iso={run.startedAt} />
        </span>
        {run.counts.tests > 0 ? (
          <span title="All results together; parallel ones count in full">
            {duration(run.testTimeMs)} of tests
          </span>
        ) : null}
        {run.branch ? (
          <span className="inline-flex min-w-0 items-center gap-1">
            <GitBranch size={14} aria-label="Branch" />
            <span className="max-w-60 truncate" title={run.branch}>
              {run.branch}
            </span>
          </span>
        ) : null}
        {run.commit ? (
          <span className="inline-flex items-center gap-1">
            <GitCommitHorizontal size={15} aria-label="Commit" />
            <code title={run.commit}>{run.commit.slice(0, 9)}</code>
            <CopyButton text={run.commit} what="the commit" />
          </span>
        ) : null}
        {run.buildUrl ? (
          <a
            href={run.buildUrl}
            className="link inline-flex items-center gap-1"
            rel="noreferrer noopener"
            target="_blank"
          >
            job <ExternalLink size={13} aria-hidden />
          </a>
        ) : null}
        <RunAbout labels={run.labels} />
        <NoteWords labels={runAbout(run.labels).other} tags={run.tags} />
        {mayEdit ? (
          <QuietButton icon={PencilLine} word="describe" onClick={() => setDialog('note')} />
        ) : null}
        {owns ? (
          <>
            <QuietButton icon={FolderOutput} word="move" onClick={() => setDialog('move')} />
            <QuietButton icon={Trash2} word="delete" onClick={() => setDialog('delete')} />
          </>
        ) : null}
        <button
          type="button"
          className="link-hover inline-flex items-center gap-0.5"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          <ChevronRight size={14} aria-hidden className={open ? 'rotate-90' : ''} />
          {parts.data ? plural(parts.data.length, 'part') : 'parts'}
          {parts.data && parts.data.length > 1 ? `: ${partNames(parts.data)}` : ', environment'}
          {parts.data?.some((part) => part.brokenOff) ? (
            <span className="ml-1 font-semibold text-errored">broken off</span>
          ) : null}
          {problems ? (
            <span className="ml-1 font-semibold text-errored">
              {plural(problems, 'file problem')}
            </span>
          ) : null}
        </button>
      </div>
      {run.description ? (
        <div className="mt-2 max-h-32 overflow-y-auto border-l-2 border-accent pl-3">
          <MarkdownText text={run.description} />
        </div>
      ) : null}
      {dialog === 'note' ? (
        <NoteDialog
          project={project}
          subject={{ kind: 'run', id: run.id }}
          title={`About ${run.stream} #${run.number}`}
          onClose={() => setDialog(undefined)}
        />
      ) : null}
      {dialog === 'move' ? (
        <MoveDialog project={project} run={run} onClose={() => setDialog(undefined)} />
      ) : null}
      {dialog === 'delete' ? (
        <DeleteDialog
          project={project}
          title={`Delete ${run.stream} #${run.number}?`}
          name={`#${run.number}`}
          onDelete={() => deleteRun(project, run)}
          onDeleted={() =>
            void navigate({
              to: '/$project/runs',
              params: { project },
              search: { stream: run.stream },
            })
          }
          onClose={() => setDialog(undefined)}
        >
          Its {plural(run.counts.tests, 'result')}, its files and what was written about it go, for
          everybody and for good. The run after it is compared with the one before it.
        </DeleteDialog>
      ) : null}
      {run.open && parts.data ? <RunningNow parts={parts.data} /> : null}
      {open && parts.data ? <PartTable project={project} run={run} parts={parts.data} /> : null}
    </header>
  );
}

function Neighbours({ project, run }: { project: string; run: Run }) {
  return (
    <nav aria-label="Other runs of the stream" className="ml-auto flex gap-3 text-sm">
      {run.previousNumber === null ? null : (
        <Neighbour project={project} stream={run.stream} number={run.previousNumber}>
          run before
        </Neighbour>
      )}
      {run.nextNumber === null ? null : (
        <Neighbour project={project} stream={run.stream} number={run.nextNumber}>
          run after
        </Neighbour>
      )}
    </nav>
  );
}

/** Another run, looked at through the same filter. */
function Neighbour(props: {
  project: string;
  stream: string;
  number: number;
  children: ReactNode;
}) {
  return (
    <Link
      to="/$project/runs/$"
      params={{ project: props.project, _splat: `${props.stream}/${props.number}` }}
      search={({ filter, view }: RunSearch) => ({
        ...(filter ? { filter } : {}),
        ...(view ? { view } : {}),
      })}
      className="link"
      title={`#${props.number}`}
    >
      {props.children}
    </Link>
  );
}

/** One cause that fails most of it, should there be one. */
function RunOutage({ project, run }: { project: string; run: Run }) {
  const groups = useQuery(groupsInRunQuery(project, run));
  const outage = groups.data?.outage;
  return outage ? (
    <div className="mt-1">
      <OutageLine project={project} outage={outage} />
    </div>
  ) : null;
}

/** Failures that are known to be let pass for a while: seen, and counted apart. */
function Quarantined({ project, run }: { project: string; run: Run }) {
  const told = useQuery(quarantinedQuery(project, run));
  if (!told.data || told.data.failing === 0) {
    return null;
  }
  return (
    <p className="mt-1 text-sm">
      <Link
        to="/$project/runs/$"
        params={{ project, _splat: `${run.stream}/${run.number}` }}
        search={{ filter: 'quarantined eq true and (outcome eq "failed" or outcome eq "errored")' }}
        className="link"
      >
        {told.data.failing} of them in quarantine
      </Link>
      , which fail no gate
    </p>
  );
}
