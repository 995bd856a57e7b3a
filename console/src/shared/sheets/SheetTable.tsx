import { plural } from '../lib/format';
import type { Cell, Column, Sheet } from './api';
import { CellLink } from './CellLink';
import { useLater } from './later';
import { headOf, manyRows, percent, wordsOf } from './words';

const WORDS = ['text', 'time'];

/** In a narrow panel names are cut, so that at least the first number beside them is seen. */
const FIRST_WORDS = 'max-w-60 @max-md:max-w-32';
const OTHER_WORDS = 'max-w-40 @max-md:max-w-20';

/** A sheet as a table: what a chart draws in numbers, and what stands side by side. */
export function SheetTable(props: {
  project: string;
  sheet: Sheet;
  title: string;
  /** So many rows are seen before somebody scrolls; the others come a little later. */
  first: number;
}) {
  const { project, sheet } = props;
  const later = useLater();
  const rows = later ? sheet.rows : sheet.rows.slice(0, props.first);
  // A column that says nothing in any row only takes room.
  const shown = sheet.columns.flatMap((column, i) =>
    column.key === 'standing' && sheet.rows.every((row) => row[i]?.text === 'free') ? [] : [i],
  );
  return (
    // What is not in sight is neither laid out nor painted.
    <div
      className="@container min-h-0 grow overflow-auto [content-visibility:auto] print:[content-visibility:visible]"
      tabIndex={0}
      role="group"
      aria-label={props.title}
    >
      {/* Neither paper nor a wall can be scrolled: what does not fit is at least told. */}
      <p className="hidden px-2 text-[13px] text-quiet print:block [.on-wall_&]:block">
        {manyRows(sheet)}
      </p>
      <table className="table table-sm table-pin-rows [&_td]:px-2 [&_th]:px-2 [&_th]:font-normal [&_th]:text-quiet">
        <thead>
          <tr className="bg-base-100">
            {shown.map((i) => {
              const column = sheet.columns[i];
              return column ? (
                <th
                  key={`${column.key} ${column.values.join(' ')}`}
                  scope="col"
                  className={WORDS.includes(column.unit) ? '' : 'text-right'}
                >
                  {headOf(column)}
                </th>
              ) : null;
            })}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.map((cell) => cell.text ?? '').join(' ')}>
              {shown.map((i) => {
                const column = sheet.columns[i];
                const cell = row[i];
                return column && cell ? (
                  <td
                    key={`${column.key} ${column.values.join(' ')}`}
                    className={
                      WORDS.includes(column.unit)
                        ? `${i === shown[0] ? FIRST_WORDS : OTHER_WORDS} truncate`
                        : 'text-right tabular-nums'
                    }
                    title={WORDS.includes(column.unit) ? (cell.text ?? '') : about(cell)}
                  >
                    <Standing column={column} cell={cell}>
                      <CellLink project={project} cell={cell}>
                        {wordsOf(column, cell)}
                      </CellLink>
                    </Standing>
                  </td>
                ) : null;
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {sheet.left < 0 ? (
        <p className="px-2 py-1.5 text-[13px] text-quiet">More follow that are not shown.</p>
      ) : null}
      {sheet.left > 0 ? (
        <p className="px-2 py-1.5 text-[13px] text-quiet">
          {plural(sheet.left, 'further row')}, less bad than these.
        </p>
      ) : null}
    </div>
  );
}

/** A share with the interval that it may truly lie in. */
function about(cell: Cell): string | undefined {
  return cell.low === null || cell.high === null
    ? undefined
    : `${percent(cell.low)} to ${percent(cell.high)} in 19 of 20 cases`;
}

function Standing(props: { column: Column; cell: Cell; children: React.ReactNode }) {
  if (props.column.key !== 'standing') {
    return props.children;
  }
  const colour =
    props.cell.text === 'misses'
      ? 'font-semibold text-failed'
      : props.cell.text === 'holds'
        ? 'text-passed'
        : 'text-quiet';
  return (
    <span className={colour}>
      <span aria-hidden>
        {props.cell.text === 'misses' ? '◆ ' : props.cell.text === 'holds' ? '● ' : ''}
      </span>
      {props.children}
    </span>
  );
}
