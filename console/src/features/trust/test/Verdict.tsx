import { plural } from '../../../shared/lib/format';
import type { Taken, TestHistory } from '../api';
import { interval, percent } from '../model';
import { RunNumber } from './RunNumber';

const COLOURS: Record<string, string> = {
  flaky: 'text-errored',
  broken: 'text-failed',
  steady: 'text-passed',
  unsure: 'text-quiet',
};

const WORDS: Record<string, string> = {
  flaky: 'Flaky',
  broken: 'Broken',
  steady: 'Steady',
  unsure: 'Not known yet',
};

/** What it is taken for in a stream, why, and since when it fails. */
export function Verdict(props: {
  project: string;
  stream: string;
  taken: Taken | undefined;
  history: TestHistory;
}) {
  const { project, stream, history } = props;
  const estimate = props.taken?.estimate;
  const { passed, since } = history;
  return (
    <div>
      <p className="flex flex-wrap items-baseline gap-x-3">
        {estimate ? (
          <span className={`font-serif text-2xl ${COLOURS[estimate.verdict] ?? ''}`}>
            {WORDS[estimate.verdict] ?? estimate.verdict}
          </span>
        ) : null}
        {estimate && estimate.verdict === 'flaky' && estimate.rate !== null ? (
          <span>
            <b>{percent(estimate.rate)}</b> of its tries fail by chance
            {estimate.low !== null && estimate.high !== null ? (
              <span className="text-quiet" title="In nine of ten cases the true rate lies there">
                {' '}
                ({interval(estimate.low, estimate.high)})
              </span>
            ) : null}
          </span>
        ) : null}
      </p>
      <p className="mt-1">{history.sentence}</p>
      {passed.all > 0 ? (
        <p className="mt-1 text-sm text-quiet">
          Passed in {passed.some} of the latest {plural(passed.all, 'run')}:{' '}
          {percent(passed.some / passed.all)} ({interval(passed.low, passed.high)})
        </p>
      ) : null}
      {since ? (
        <p className="mt-1 text-sm">
          <span className="font-semibold">
            Failing since{' '}
            <RunNumber project={project} stream={stream} run={since.firstBad} filter={undefined} />
          </span>
          <span className="text-quiet">
            {' '}
            in {plural(since.runs, 'run')}
            {since.lastGood === null ? ', and not seen to pass before' : ', last passed in '}
          </span>
          {since.lastGood === null ? null : (
            <RunNumber project={project} stream={stream} run={since.lastGood} filter={undefined} />
          )}
          {since.lastGoodCommit !== null && since.firstBadCommit !== null ? (
            <span className="text-quiet">
              , between commits <code>{since.lastGoodCommit.slice(0, 10)}</code> and{' '}
              <code>{since.firstBadCommit.slice(0, 10)}</code>
            </span>
          ) : null}
        </p>
      ) : null}
    </div>
  );
}
