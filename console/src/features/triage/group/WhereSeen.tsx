import { plural } from '../../../shared/lib/format';
import type { GroupDetail } from '../../../shared/triage/api';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { RunLink } from './RunLink';

type OfStream = GroupDetail['streams'][number];

/** Since when in each stream, and which commits lie between. */
export function WhereSeen(props: { project: string; group: number; streams: OfStream[] }) {
  const { project, group, streams } = props;
  return (
    <section>
      <h3 className="mb-1 font-semibold">Since when</h3>
      <div className="overflow-x-auto">
        <table className="table-sm table">
          <thead>
            <tr>
              <th>Stream</th>
              <th>Runs</th>
              <th>Since</th>
              <th>Without it before</th>
              <th>Now</th>
            </tr>
          </thead>
          <tbody>
            {streams.map((one) => (
              <tr key={one.stream}>
                <td>{one.stream}</td>
                <td className="tabular-nums">{one.runs}</td>
                <td>
                  <RunLink
                    project={project}
                    run={{ stream: one.stream, number: one.since.number }}
                    group={group}
                    words={`#${one.since.number}`}
                  />
                  <Commit id={one.since.commit} />
                </td>
                <td>
                  {one.before ? (
                    <>
                      <RunLink
                        project={project}
                        run={{ stream: one.stream, number: one.before.number }}
                        words={`#${one.before.number}`}
                      />
                      <Commit id={one.before.commit} />
                    </>
                  ) : (
                    <span className="text-quiet">no earlier run</span>
                  )}
                </td>
                <td>
                  {one.gone ? (
                    <span className="text-quiet">
                      gone after #{one.last.number}, <RelativeTime iso={one.last.at} />
                    </span>
                  ) : (
                    <span>
                      still in #{one.last.number}
                      {one.since.number === one.last.number ? '' : `, ${row(one)}`}
                    </span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function row(one: OfStream): string {
  const days = Math.round((Date.parse(one.last.at) - Date.parse(one.since.at)) / 86_400_000);
  return days === 0 ? 'the same day' : `for ${plural(days, 'day')}`;
}

function Commit({ id }: { id: string | null }) {
  return id ? (
    <code className="ml-1.5 font-mono text-xs text-quiet" title={id}>
      {id.slice(0, 8)}
    </code>
  ) : null;
}
