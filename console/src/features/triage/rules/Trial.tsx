import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useEffect, useState } from 'react';
import { count, plural } from '../../../shared/lib/format';
import type { Category } from '../../../shared/triage/api';
import { CategoryMark } from '../../../shared/triage/CategoryMark';
import { GroupTitle } from '../../../shared/triage/GroupTitle';
import { Failed, Loading } from '../../../shared/ui/States';
import { type Rule, type RuleTrial, tryRule } from './api';
import { disagreeing, isWide, TRIED_ON, verdict } from './model';

const PAUSE_MS = 500;

interface Condition {
  filter: string;
  pattern: string;
}

/** What the rule would do in the latest runs, while it is written. */
export function Trial(props: {
  project: string;
  rule: Rule | undefined;
  /** Undefined as long as it asks for nothing. */
  condition: Condition | undefined;
  category: string;
  categories: Category[] | undefined;
  runs: number;
  onRuns: (runs: number) => void;
}) {
  const { project, rule, runs } = props;
  const asked = useSettled(props.condition);
  const trial = useQuery({
    // What it has explained meanwhile is another outcome.
    queryKey: [
      'rule-trial',
      project,
      rule?.id,
      rule?.explained,
      asked?.filter,
      asked?.pattern,
      runs,
    ],
    queryFn: () => tryRule(project, rule?.id, asked ?? { filter: '', pattern: '' }, runs),
    enabled: asked !== undefined,
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 10_000,
  });
  return (
    <section aria-label="Trial" className="mt-6 border-t border-base-300 pt-4">
      <div className="flex items-baseline justify-between gap-4">
        <h2 className="font-serif text-xl">What it would do</h2>
        <label className="flex items-baseline gap-2 text-sm">
          <span className="text-quiet">in the latest</span>
          <select
            className="select select-sm w-auto"
            value={runs}
            onChange={(e) => props.onRuns(Number(e.target.value))}
          >
            {TRIED_ON.map((one) => (
              <option key={one} value={one}>
                {one} runs with failures
              </option>
            ))}
          </select>
        </label>
      </div>
      {props.condition === undefined ? (
        <p className="mt-2 text-quiet">
          Write a filter or a pattern, and see here what it would explain.
        </p>
      ) : trial.error ? (
        <Failed error={trial.error} retry={() => trial.refetch()} />
      ) : trial.data === undefined ? (
        <Loading lines={4} />
      ) : (
        <div className={trial.isPlaceholderData || trial.isFetching ? 'opacity-60' : ''}>
          <Outcome {...props} trial={trial.data} />
        </div>
      )}
    </section>
  );
}

function Outcome(props: {
  project: string;
  category: string;
  categories: Category[] | undefined;
  trial: RuleTrial;
}) {
  const { trial, categories } = props;
  const others = disagreeing(trial, props.category);
  return (
    <>
      <p role="status" className="mt-2 text-[15px]">
        {verdict(trial)}
      </p>
      {isWide(trial) ? (
        <p className="mt-1 text-errored">
          That is nearly everything that fails: it would hide what is new. Ask for something that
          only this cause says.
        </p>
      ) : null}
      {others.length > 0 ? (
        <p className="mt-1 text-errored">
          People or other rules called{' '}
          {count(others.reduce((sum, [, results]) => sum + results, 0))} of them something else, and
          that stays:{' '}
          {others.map(([category, results]) => `${count(results)} ${category}`).join(', ')}.
        </p>
      ) : null}
      {trial.stopped ? (
        <p className="mt-1 text-errored first-letter:uppercase">
          Not all was looked at: {trial.stopped}.
        </p>
      ) : null}
      {trial.groups.length > 0 ? (
        <table className="table table-sm mt-3 table-fixed text-sm">
          <thead>
            <tr>
              <th scope="col">Failure group</th>
              <th scope="col" className="w-36 text-right">
                It would explain
              </th>
              <th scope="col" className="w-28 text-right">
                Fits
              </th>
              <th scope="col" className="w-48">
                Explained as
              </th>
            </tr>
          </thead>
          <tbody>
            {trial.groups.map((one) => (
              <tr key={one.group}>
                <td>
                  <Link
                    to="/$project/triage"
                    params={{ project: props.project }}
                    search={{ show: 'all', days: 0, group: one.group }}
                    className="link-hover line-clamp-2 break-words"
                  >
                    <GroupTitle group={one} />
                  </Link>
                </td>
                <td className="text-right tabular-nums">
                  {one.would > 0 ? (
                    <b>{count(one.would)}</b>
                  ) : (
                    <span className="text-quiet">–</span>
                  )}
                </td>
                <td className="text-right text-quiet tabular-nums">
                  {one.fits === one.results
                    ? `all ${count(one.results)}`
                    : `${count(one.fits)} of ${count(one.results)}`}
                </td>
                <td>
                  {one.returned ? (
                    <span className="text-quiet">returned: left to a person</span>
                  ) : one.said ? (
                    <CategoryMark name={one.said} categories={categories} />
                  ) : (
                    <span className="text-quiet">unsorted</span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
      {trial.allGroups > trial.groups.length ? (
        <p className="mt-1 text-sm text-quiet">
          and {plural(trial.allGroups - trial.groups.length, 'more group')}
        </p>
      ) : null}
    </>
  );
}

/** A condition once nobody has typed for a moment. */
function useSettled(condition: Condition | undefined): Condition | undefined {
  const filter = condition?.filter;
  const pattern = condition?.pattern;
  const [settled, setSettled] = useState(condition);
  useEffect(() => {
    const timer = setTimeout(
      () =>
        setSettled(filter === undefined || pattern === undefined ? undefined : { filter, pattern }),
      PAUSE_MS,
    );
    return () => clearTimeout(timer);
  }, [filter, pattern]);
  return condition === undefined ? undefined : settled;
}
