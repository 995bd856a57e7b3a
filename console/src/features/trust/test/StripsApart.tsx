import { useQueries } from '@tanstack/react-query';
import { Failed, Loading } from '../../../shared/ui/States';
import { historyQuery, type TestDetail } from '../api';
import { branchesApart } from './branches';
import { Strip } from './HistoryStrip';

/** More streams are not asked for at once. */
const MOST = 12;

/** What it did in each stream, and on each branch, one below the other. */
export function StripsApart(props: {
  project: string;
  detail: TestDetail;
  onTogether: () => void;
}) {
  const { project, detail } = props;
  const streams = detail.streams.slice(0, MOST).map((one) => one.stream);
  const histories = useQueries({
    queries: streams.map((stream) => historyQuery(project, detail.id, stream, undefined)),
  });
  const left = detail.streams.length - streams.length;
  return (
    <div>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h3 className="font-semibold">
          The latest runs, apart{' '}
          <span className="text-sm font-normal text-quiet">oldest first</span>
        </h3>
        <button type="button" className="link ml-auto text-sm" onClick={props.onTogether}>
          together
        </button>
      </div>
      {streams.map((stream, at) => {
        const history = histories[at];
        return (
          <section key={stream} aria-label={stream} className="mt-2">
            <h4 className="text-sm">{stream}</h4>
            {history?.isPending ? <Loading lines={1} /> : null}
            {history?.error ? (
              <Failed error={history.error} retry={() => history.refetch()} />
            ) : null}
            {branchesApart(history?.data?.results ?? []).map((row) => (
              <div key={row.name} className="flex items-baseline gap-3">
                <span className="w-40 shrink-0 truncate text-[13px] text-quiet" title={row.name}>
                  {row.name}
                </span>
                <Strip
                  project={project}
                  stream={stream}
                  results={row.results}
                  label={`${stream}, ${row.name}`}
                />
              </div>
            ))}
          </section>
        );
      })}
      {left > 0 ? <p className="mt-2 text-sm text-quiet">and in {left} other streams</p> : null}
    </div>
  );
}
