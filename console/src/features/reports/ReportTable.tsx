import type { Cell, Column, Sheet } from '../../shared/sheets/api';
import { CellLink } from '../../shared/sheets/CellLink';
import { headOf, percent, wordsOf } from '../../shared/sheets/words';
import { isOutcome, OutcomeGlyph } from '../../shared/ui/OutcomeGlyph';

const WORDS = ['text', 'time'];

/** A table of a report; one of whole periods is read from top to bottom. */
export function ReportTable(props: {
  project: string;
  sheet: Sheet;
  title: string;
  turned: boolean;
}) {
  return props.turned ? <Turned {...props} /> : <Usual {...props} />;
}

function Usual({ project, sheet, title }: { project: string; sheet: Sheet; title: string }) {
  return (
    <div
      className="overflow-x-auto border-y border-base-300"
      tabIndex={0}
      role="group"
      aria-label={title}
    >
      <table className="table table-sm [&_td]:px-1.5 [&_td]:align-top [&_td]:text-[13px] [&_th]:px-1.5 [&_th]:text-[13px] [&_th]:font-normal [&_th]:whitespace-normal">
        <thead>
          <tr className="text-quiet">
            {sheet.columns.map((column, i) => (
              <th
                key={keyOf(column)}
                scope="col"
                className={`align-bottom ${isWords(column) ? '' : 'text-right'} ${i === 0 ? 'pl-0!' : ''}`}
              >
                {headOf(column)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sheet.rows.map((row, nr) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows have no name of their own
            <tr key={nr} className="align-top">
              {sheet.columns.map((column, i) => {
                const cell = row[i];
                return cell ? (
                  <td
                    key={keyOf(column)}
                    title={about(cell)}
                    className={
                      isWords(column)
                        ? `break-words ${i === 0 ? 'min-w-44 max-w-72 pl-0!' : 'max-w-60'}`
                        : 'whitespace-nowrap text-right tabular-nums'
                    }
                  >
                    <Told project={project} column={column} cell={cell} />
                  </td>
                ) : null;
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const BLOCKS = 3;

/** Its columns as rows, side by side in blocks of a few. */
function Turned({ project, sheet, title }: { project: string; sheet: Sheet; title: string }) {
  const [first, ...columns] = sheet.columns;
  const each = Math.ceil(columns.length / BLOCKS);
  const blocks = [0, 1, 2].map((nr) => columns.slice(nr * each, (nr + 1) * each));
  return (
    <div className="grid grid-cols-[repeat(auto-fit,minmax(18rem,1fr))] items-start gap-x-10 gap-y-4">
      {blocks.map((block, nr) => (
        <table
          key={block[0]?.key}
          className="table table-sm [&_td]:text-sm [&_th]:text-sm [&_th]:font-normal"
          aria-label={title}
        >
          <thead>
            <tr className="text-quiet">
              <td className="pl-0!" />
              {sheet.rows.map((row) => (
                <th key={row[0]?.text} scope="col" className="text-right text-[13px]!">
                  {first && row[0] ? wordsOf(first, row[0]) : ''}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {block.map((column, i) => (
              <tr key={keyOf(column)}>
                <th scope="row" className="pl-0!">
                  {isOutcome(column.key) ? (
                    <span className="mr-2 inline-flex align-[-2px]">
                      <OutcomeGlyph outcome={column.key} size={12} />
                    </span>
                  ) : null}
                  {headOf(column)}
                </th>
                {sheet.rows.map((row) => {
                  const cell = row[nr * each + i + 1];
                  return cell ? (
                    <td key={row[0]?.text} title={about(cell)} className="text-right tabular-nums">
                      <Told project={project} column={column} cell={cell} />
                    </td>
                  ) : null;
                })}
              </tr>
            ))}
          </tbody>
        </table>
      ))}
    </div>
  );
}

/** What counts nothing leads to an empty list, which is no use. */
function Told({ project, column, cell }: { project: string; column: Column; cell: Cell }) {
  const words = wordsOf(column, cell);
  return cell.number === 0 ? (
    <span className="text-quiet">{words}</span>
  ) : (
    <CellLink project={project} cell={cell}>
      {words}
    </CellLink>
  );
}

function isWords(column: Column): boolean {
  return WORDS.includes(column.unit);
}

function keyOf(column: Column): string {
  return `${column.key} ${column.values.join(' ')}`;
}

/** A share with the interval that it may truly lie in. */
function about(cell: Cell): string | undefined {
  return cell.low === null || cell.high === null
    ? undefined
    : `${percent(cell.low)} to ${percent(cell.high)} in 19 of 20 cases`;
}
