import type { Sheet, Shift } from '../api';
import { CellLink } from '../CellLink';
import { headOf, wordsOf } from '../words';
import { rowNames } from './axis';

/** What changed for good, in words: the latest first, each with the runs in which it began. */
export function ShiftsTold(props: { project: string; sheet: Sheet; step: string }) {
  const { project, sheet } = props;
  const latest = [...sheet.shifts].sort((a, b) => b.row - a.row);
  if (latest.length === 0) {
    return null;
  }
  const days = rowNames(sheet, props.step);
  const all = latest.map((shift) => told(sheet, shift, days));
  return (
    <p className="truncate px-1 pt-0.5 text-[13px] text-quiet" title={all.join('; ')}>
      {latest.map((shift, i) => (
        <span key={`${shift.column} ${shift.row}`}>
          {i > 0 ? '; ' : ''}
          <CellLink
            project={project}
            cell={{ text: null, number: null, low: null, high: null, link: shift.link }}
          >
            {all[i]}
          </CellLink>
        </span>
      ))}
    </p>
  );
}

function told(sheet: Sheet, shift: Shift, days: string[]): string {
  const column = sheet.columns[shift.column];
  if (!column) {
    return '';
  }
  const words = (number: number) =>
    wordsOf(column, { text: null, number, low: null, high: null, link: null });
  const since = column.values.length > 0 ? `${headOf(column)}: since` : 'Since';
  return `${since} ${days[shift.row]} about ${words(shift.after)}, before ${words(shift.before)}`;
}
