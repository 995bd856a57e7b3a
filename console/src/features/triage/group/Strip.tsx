import { Link } from '@tanstack/react-router';
import { exactTime, plural } from '../../../shared/lib/format';
import type { GroupDetail } from '../../../shared/triage/api';

const HEIGHT = 36;
const LEAST = 3;

/** The runs that have it, in the order of time: how many results, and how many are unexplained. */
export function Strip(props: { project: string; group: number; runs: GroupDetail['strip'] }) {
  const { project, group, runs } = props;
  const most = Math.max(1, ...runs.map((one) => one.results));
  const height = (n: number) => (n === 0 ? 0 : Math.max(LEAST, Math.round((n / most) * HEIGHT)));
  return (
    <ol
      aria-label="Runs with this group, oldest first"
      className="mt-2 flex items-end gap-[3px] border-b border-base-300"
      style={{ height: HEIGHT + 1 }}
    >
      {runs.map(({ run, results, open }) => (
        <li key={run.run} className="max-w-4 min-w-1 grow">
          <Link
            to="/$project/runs/$"
            params={{ project, _splat: `${run.stream}/${run.number}` }}
            search={{ filter: `group eq ${group}` }}
            className="block hover:opacity-70"
            title={`${run.stream} #${run.number}, ${exactTime(run.at)}: ${plural(results, 'result')}${
              open > 0 ? `, ${open} unsorted` : ''
            }`}
          >
            <span className="sr-only">
              {run.stream} #{run.number}: {plural(results, 'result')}
            </span>
            <span className="block bg-failed" style={{ height: height(open) }} />
            <span
              className="block bg-slate opacity-60"
              style={{ height: Math.max(0, height(results) - height(open)) }}
            />
          </Link>
        </li>
      ))}
    </ol>
  );
}
