import type { Sheet } from '../api';
import { headOf, wordsOf } from '../words';
import { shortDay } from './axis';
import type { Plot } from './plot';

/** What a row of a chart says, beside it. */
export function Tip(props: { sheet: Sheet; plot: Plot; row: number; step: string }) {
  const { sheet, plot } = props;
  const row = sheet.rows[props.row];
  const run = row?.[sheet.columns.findIndex((column) => column.key === 'run')]?.text;
  const day = shortDay(row?.[0]?.text ?? '', run == null ? props.step : 'day');
  const told = plot.marks.flatMap((one) => {
    const cell = row?.[one.column];
    return cell == null || cell.number === null
      ? []
      : [{ column: one.column, head: headOf(one.head), words: wordsOf(one.head, cell) }];
  });
  const middle = plot.field.left + (props.row + 0.5) * plot.step;
  const style =
    middle > plot.width / 2 ? { right: plot.width - middle + 14 } : { left: middle + 14 };
  return (
    <div
      aria-hidden
      style={{ ...style, top: 2 }}
      className="pointer-events-none absolute z-20 max-w-72 rounded-box border border-base-300 bg-base-100 px-2.5 py-1.5 text-[13px] shadow-md print:hidden"
    >
      <div className="text-quiet">{[run, day].filter(Boolean).join(', ')}</div>
      {told.length === 0
        ? 'no run'
        : told.map((one) => (
            <div key={one.column} className="flex justify-between gap-5">
              <span className="min-w-0 truncate">{one.head}</span>
              <b className="whitespace-nowrap">{one.words}</b>
            </div>
          ))}
    </div>
  );
}
