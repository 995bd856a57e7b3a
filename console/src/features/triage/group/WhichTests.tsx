import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { count, plural } from '../../../shared/lib/format';
import { useMayEdit } from '../../../shared/session/may';
import { type GroupDetail, partGroup, useDecided } from '../../../shared/triage/api';
import { Wrong } from '../../../shared/ui/Form';
import { toggled } from '../model';
import { RunLink } from './RunLink';

const FIRST = 8;

/** The portal counts the tests in so many results. */
const LATEST = 5_000;

/** The tests that fail for this cause. */
export function WhichTests(props: {
  project: string;
  group: number;
  tests: GroupDetail['tests'];
  total: number;
  /** Of all its tests. */
  results: number;
  onGroup: (group: number) => void;
}) {
  const { project, tests, total } = props;
  const [all, setAll] = useState(false);
  const mayEdit = useMayEdit(project);
  const decided = useDecided(project);
  /** Tests that have another cause; undefined while nobody says so. */
  const [other, setOther] = useState<number[]>();
  const parting = useMutation({
    mutationFn: (some: number[]) => partGroup(project, props.group, some),
    onSuccess: ({ group }) => {
      setOther(undefined);
      decided();
      props.onGroup(group);
    },
  });
  const shown = all ? tests : tests.slice(0, FIRST);
  return (
    <section>
      <div className="mb-1 flex flex-wrap items-center gap-x-3 gap-y-1">
        <h3 className="font-semibold">{total === 1 ? 'Its test' : `Its ${count(total)} tests`}</h3>
        {!mayEdit || total === 1 ? null : other === undefined ? (
          <button
            type="button"
            className="link text-sm text-quiet"
            onClick={() => {
              setOther([]);
              setAll(true);
            }}
          >
            some have another cause
          </button>
        ) : (
          <span className="flex gap-2">
            <button
              type="button"
              className="btn btn-sm"
              disabled={other.length === 0 || other.length >= total || parting.isPending}
              onClick={() => parting.mutate(other)}
            >
              Take {other.length === 0 ? 'the marked ones' : plural(other.length, 'test')} out
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-sm"
              onClick={() => setOther(undefined)}
            >
              Cancel
            </button>
          </span>
        )}
      </div>
      <Wrong error={parting.error} className="mb-1" />
      <ul className="text-sm">
        {shown.map((one) => (
          <li
            key={one.test}
            className="flex items-baseline gap-3 border-b border-base-300/70 py-1 last:border-0"
          >
            {other === undefined ? null : (
              <input
                type="checkbox"
                className="checkbox checkbox-xs self-center"
                aria-label={one.name}
                checked={other.includes(one.test)}
                onChange={() => setOther(toggled(other, one.test))}
              />
            )}
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
