import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { X } from 'lucide-react';
import { useState } from 'react';
import { exactTime } from '../../../shared/lib/format';
import { type Changes, comparisonQuery, type Run, runsQuery } from '../api';
import { type ChangeWord, changeWords, sinceWords } from '../model';

/** What changed, against the run before or against one that somebody chose. */
export function Since(props: {
  project: string;
  run: Run;
  against: number | undefined;
  onAgainst: (number: number | undefined) => void;
  onChange: (change: string) => void;
}) {
  const { project, run, against } = props;
  const [choosing, setChoosing] = useState(false);
  const chosen = useQuery({
    ...comparisonQuery(project, run, against ?? 0),
    enabled: against !== undefined,
  });
  const other = against === undefined ? undefined : chosen.data;
  return (
    <>
      <span className="text-quiet">
        {against === undefined
          ? sinceWords(run)
          : `Since #${against}${other?.branch && other.branch !== run.branch ? ` of ${other.branch}` : ''}, as chosen:`}
      </span>
      {against !== undefined && chosen.isPending ? <span className="skeleton h-5 w-40" /> : null}
      {chosen.error && against !== undefined ? (
        <span className="text-errored">{chosen.error.message}</span>
      ) : null}
      {against === undefined ? (
        run.previousNumber === null && changeWords(run.changes).length === 0 ? null : (
          <Words changes={run.changes} open={run.open} onChange={props.onChange} />
        )
      ) : other ? (
        <Words changes={other.changes} open={run.open} onChange={props.onChange} />
      ) : null}
      {run.counts.failed + run.counts.errored > 0 ? (
        <Link
          to="/$project/tests/grid"
          params={{ project }}
          search={{ stream: run.stream, run: run.number }}
          className="link-hover text-sm text-quiet"
        >
          what fails, by runs
        </Link>
      ) : null}
      {choosing ? (
        <Choice
          project={project}
          run={run}
          onChoose={(number) => {
            setChoosing(false);
            props.onAgainst(number);
          }}
        />
      ) : (
        <button
          type="button"
          className="link-hover text-sm text-quiet"
          onClick={() => setChoosing(true)}
        >
          compare with another run
        </button>
      )}
      {against !== undefined ? (
        <button
          type="button"
          className="link-hover inline-flex items-center gap-0.5 text-sm text-quiet"
          onClick={() => props.onAgainst(undefined)}
        >
          <X size={14} aria-hidden /> with the run before
        </button>
      ) : null}
    </>
  );
}

function Words(props: { changes: Changes; open: boolean; onChange: (change: string) => void }) {
  const words: ChangeWord[] = changeWords(props.changes);
  if (words.length === 0) {
    return <span>{props.open ? 'nothing changed yet' : 'nothing changed'}</span>;
  }
  return words.map((word) => (
    <button
      key={word.change}
      type="button"
      onClick={() => props.onChange(word.change)}
      className={`btn btn-xs font-normal ${
        word.change === 'new failing' ? 'btn-outline btn-error font-semibold' : ''
      }`}
    >
      {word.text}
    </button>
  ));
}

function Choice(props: { project: string; run: Run; onChoose: (number: number) => void }) {
  const runs = useInfiniteQuery(runsQuery(props.project, props.run.stream, ''));
  const others = (runs.data?.pages.flatMap((page) => page.items) ?? []).filter(
    (one) => one.number !== props.run.number,
  );
  if (runs.isPending) {
    return <span className="skeleton h-6 w-48" />;
  }
  return (
    <span className="inline-flex items-center gap-1">
      <select
        aria-label="Run to compare with"
        className="select select-xs w-64"
        defaultValue=""
        // biome-ignore lint/a11y/noAutofocus: the button before it was asked for this
        autoFocus
        onChange={(event) =>
          event.target.value === 'more'
            ? void runs.fetchNextPage()
            : props.onChoose(Number(event.target.value))
        }
      >
        <option value="" disabled>
          {others.length === 0 ? 'there is no other run' : 'choose a run'}
        </option>
        {others.map((one) => (
          <option key={one.id} value={one.number}>
            #{one.number} {one.branch ?? ''} {exactTime(one.startedAt)}
          </option>
        ))}
        {runs.hasNextPage ? <option value="more">older runs …</option> : null}
      </select>
    </span>
  );
}
