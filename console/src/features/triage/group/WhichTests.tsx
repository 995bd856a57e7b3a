import { useState } from 'react';
import { count, plural } from '../../../shared/lib/format';
import type { GroupDetail } from '../../../shared/triage/api';
import { RunLink } from './RunLink';

const FIRST = 8;

/** The portal counts the tests in so many results. */
const LATEST = 5_000;

/** The tests that fail for this cause. */
export function WhichTests(props: {
  project: string;
  tests: GroupDetail['tests'];
  total: number;
  /** Of all its tests. */
  results: number;
}) {
  const { project, tests, total } = props;
  const [all, setAll] = useState(false);
  const shown = all ? tests : tests.slice(0, FIRST);
  return (
    <section>
      <h3 className="mb-1 font-semibold">
        {total === 1 ? 'Its test' : `Its ${count(total)} tests`}
      </h3>
      <ul className="text-sm">
        {shown.map((one) => (
          <li
            key={one.test}
            className="flex items-baseline gap-3 border-b border-base-300/70 py-1 last:border-0"
          >
            <span className="w-8 shrink-0 text-right text-quiet tabular-nums">{one.results}×</span>
            <span className="min-w-0 grow break-words">{one.name}</span>
            <span className="shrink-0 text-quiet">
              last{' '}
              <RunLink
                project={project}
                run={one.last}
                result={one.result}
                words={`#${one.last.number}`}
              />
            </span>
          </li>
        ))}
      </ul>
      {!all && tests.length > FIRST ? (
        <button type="button" className="link mt-1 text-sm" onClick={() => setAll(true)}>
          {plural(tests.length - FIRST, 'more test')}
        </button>
      ) : null}
      {props.results > LATEST ? (
        <p className="mt-1 text-sm text-quiet">Counted in its latest {count(LATEST)} results.</p>
      ) : null}
      {all && total > tests.length ? (
        <p className="mt-1 text-sm text-quiet">
          The {count(tests.length)} with most results of {count(total)}.
        </p>
      ) : null}
    </section>
  );
}
