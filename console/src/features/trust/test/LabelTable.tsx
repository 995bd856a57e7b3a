import type { TestHistory } from '../api';
import { percent } from '../model';

/** How often it failed where runs had each value of a label; the one that differs stands out. */
export function LabelTable({ labels }: { labels: TestHistory['labels'] }) {
  const shown = labels.filter((one) => one.values.length <= MOST || one.values.some(differs));
  if (shown.length === 0) {
    return null;
  }
  return (
    <div>
      <h3 className="font-semibold">Where it fails</h3>
      <table className="mt-1 text-sm">
        <thead className="sr-only">
          <tr>
            <th>Label</th>
            <th>Value</th>
            <th>Runs that failed</th>
            <th>Share</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((label) =>
            [...label.values]
              .sort((a, b) => share(b.failed) - share(a.failed))
              .slice(0, MOST)
              .map((one, at) => (
                <tr
                  key={`${label.key} ${one.value}`}
                  className={one.differs ? 'font-semibold' : ''}
                >
                  <th className="pr-4 text-left font-normal text-quiet">
                    {at === 0 ? label.key : ''}
                  </th>
                  <td className="max-w-60 truncate pr-6">{one.value}</td>
                  <td className="pr-6 text-right tabular-nums">
                    {one.failed.some} of {one.failed.all}
                  </td>
                  <td
                    className={`pr-6 text-right tabular-nums ${one.differs ? 'text-failed' : ''}`}
                  >
                    {percent(share(one.failed))}
                  </td>
                  <td>{one.differs ? 'not as elsewhere' : ''}</td>
                </tr>
              )),
          )}
        </tbody>
      </table>
    </div>
  );
}

/** Branches of reviews are many; only one that differs is worth a list. */
const MOST = 8;

function differs(one: { differs: boolean }): boolean {
  return one.differs;
}

function share(one: { some: number; all: number }): number {
  return one.all === 0 ? 0 : one.some / one.all;
}
