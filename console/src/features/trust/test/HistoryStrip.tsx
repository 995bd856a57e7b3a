import { Link } from '@tanstack/react-router';
import { duration, exactTime, plural } from '../../../shared/lib/format';
import { asOutcome, OutcomeGlyph } from '../../../shared/ui/OutcomeGlyph';
import type { PastResult } from '../api';

/** What it did in the latest runs of a stream. */
export function HistoryStrip(props: {
  project: string;
  stream: string;
  results: PastResult[];
  /** Offers to see streams and branches apart; undefined where there is but one. */
  onApart: (() => void) | undefined;
}) {
  const { results } = props;
  if (results.length === 0) {
    return <p className="text-sm text-quiet">No run of this stream has it.</p>;
  }
  return (
    <div>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h3 className="font-semibold">
          The latest {plural(results.length, 'run')}{' '}
          <span className="text-sm font-normal text-quiet">{explained(results)}</span>
        </h3>
        {props.onApart ? (
          <button type="button" className="link ml-auto text-sm" onClick={props.onApart}>
            streams and branches apart
          </button>
        ) : null}
      </div>
      <Strip project={props.project} stream={props.stream} results={results} label="Latest runs" />
    </div>
  );
}

/** The oldest first, with a gap where the commit changes. */
export function Strip(props: {
  project: string;
  stream: string;
  results: PastResult[];
  label: string;
}) {
  const results = [...props.results].reverse();
  const sharesCommits = new Set(results.map((one) => one.commit)).size < results.length;
  return (
    <ol aria-label={`${props.label}, oldest first`} className="mt-2 flex flex-wrap gap-y-1.5">
      {results.map((one, at) => (
        <li
          key={`${one.run} ${one.result}`}
          className={
            sharesCommits && at > 0 && results[at - 1]?.commit !== one.commit ? 'ml-1.5' : ''
          }
        >
          <Link
            to="/$project/runs/$"
            params={{ project: props.project, _splat: `${props.stream}/${one.run}` }}
            search={{ result: one.result }}
            title={words(one)}
            aria-label={`Run ${one.run}: ${one.outcome}${retried(one) ? ', after a try that failed' : ''}`}
            className={`flex h-6 w-[17px] items-center justify-center rounded-full hover:bg-base-300 ${
              retried(one) ? 'outline-2 -outline-offset-3 outline-errored' : ''
            }`}
          >
            <OutcomeGlyph outcome={asOutcome(one.outcome)} size={12} />
          </Link>
        </li>
      ))}
    </ol>
  );
}

/** Only what is to be seen is explained. */
function explained(results: PastResult[]): string {
  const commits = new Set(results.map((one) => one.commit));
  return [
    'oldest first',
    commits.size > 1 && commits.size < results.length ? 'a gap is another commit' : undefined,
    results.some(retried) ? 'ringed where a try failed' : undefined,
  ]
    .filter((part) => part !== undefined)
    .join('; ');
}

function retried(one: PastResult): boolean {
  return one.outcome === 'passed' && one.stumbled;
}

function words(one: PastResult): string {
  return [
    `#${one.run}, ${exactTime(one.startedAt)}`,
    retried(one) ? 'passed when tried again' : one.outcome,
    one.alike > 1 ? `with ${one.alike - 1} others for the same cause` : undefined,
    one.durationMs === null ? undefined : duration(one.durationMs),
    one.branch === null ? undefined : `branch ${one.branch}`,
    one.commit === null ? undefined : `commit ${one.commit.slice(0, 12)}`,
    ...Object.entries(one.environment).map(([key, value]) => `${key}=${value}`),
    one.called === null ? undefined : `called ${one.called} then`,
  ]
    .filter((part) => part !== undefined)
    .join(' · ');
}
