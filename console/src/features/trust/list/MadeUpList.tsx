import { useMutation, useQuery } from '@tanstack/react-query';
import { plural } from '../../../shared/lib/format';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { foldMadeUp, madeUpQuery, useLearnedAnew } from '../api';
import type { TestsSearch } from '../model';
import { RunNumber } from '../test/RunNumber';

/** Tests whose names are others in each run, and which of them are taken for one. */
export function MadeUpList(props: {
  project: string;
  search: TestsSearch;
  onOpen: (test: number, stream: string) => void;
}) {
  const { project, search } = props;
  const madeUp = useQuery(madeUpQuery(project, search.stream));
  const again = useLearnedAnew(project);
  const fold = useMutation({
    mutationFn: (said: { id: number; folded: boolean }) =>
      foldMadeUp(project, said.id, said.folded),
    onSuccess: again,
  });
  if (madeUp.isPending) {
    return <Loading lines={6} />;
  }
  if (madeUp.error) {
    return <Failed error={madeUp.error} retry={() => madeUp.refetch()} />;
  }
  if (madeUp.data.length === 0) {
    return (
      <Empty title="None">No test was seen whose names are others in each of several runs.</Empty>
    );
  }
  return (
    <div className="min-h-0 overflow-y-auto">
      <p className="px-4 pt-3 text-[13px] text-quiet">
        These have names that are others in each run: there is made-up data in them, and each looks
        like a test that comes and goes. Folded, all cases are one test, those of before and those
        to come.
      </p>
      {fold.error ? (
        <p role="alert" className="px-4 pt-2 text-[13px] text-error">
          {fold.error.message}
        </p>
      ) : null}
      <ul aria-label="Tests with made-up names">
        {madeUp.data.map((one) => (
          <li
            key={one.id}
            className={`flex items-center gap-3 border-b border-base-300 px-4 py-2.5 ${
              one.foldedInto !== null && one.foldedInto === search.test ? 'bg-base-200' : ''
            }`}
          >
            <div className="min-w-0 flex-1">
              <p className="truncate font-semibold" title={one.test}>
                {one.foldedInto === null ? (
                  one.test
                ) : (
                  <Opening one={one} into={one.foldedInto} onOpen={props.onOpen} />
                )}
              </p>
              <p className="truncate text-[13px] text-quiet" title={one.suite ?? undefined}>
                {one.suite}
              </p>
              <p className="text-[13px] text-quiet">
                {plural(one.cases, 'case')} in {one.stream}
                {one.run === null ? null : (
                  <>
                    , seen at{' '}
                    <RunNumber
                      project={project}
                      stream={one.stream}
                      run={one.run}
                      filter={undefined}
                    />
                  </>
                )}
                {one.saidBy === null
                  ? null
                  : `, ${one.foldedInto === null ? 'parted' : 'folded'} by ${one.saidBy}`}
              </p>
            </div>
            <button
              type="button"
              className="btn btn-sm shrink-0"
              disabled={fold.isPending}
              onClick={() => fold.mutate({ id: one.id, folded: one.foldedInto === null })}
            >
              {one.foldedInto === null ? 'Take for one test' : 'Part again'}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

function Opening(props: {
  one: { test: string; stream: string };
  into: number;
  onOpen: (test: number, stream: string) => void;
}) {
  return (
    <button
      type="button"
      className="link max-w-full truncate font-semibold"
      onClick={() => props.onOpen(props.into, props.one.stream)}
    >
      {props.one.test}
    </button>
  );
}
