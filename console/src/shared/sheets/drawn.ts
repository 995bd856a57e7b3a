import { isOutcome } from '../ui/OutcomeGlyph';
import type { Sheet } from './api';

/** The columns that a chart draws, in their order; the first of all is where on the axis. */
export function drawn(sheet: Sheet): number[] {
  const outcomes = sheet.columns.some((column) => isOutcome(column.key));
  const seconds = !outcomes && sheet.columns.some((column) => column.unit === 'seconds');
  return sheet.columns.flatMap((column, i) =>
    i === 0 ||
    column.key === 'runs' ||
    // Of what stands beside outcomes, or beside lengths of time, the table tells.
    (outcomes && !isOutcome(column.key)) ||
    (seconds && column.unit !== 'seconds')
      ? []
      : [i],
  );
}
