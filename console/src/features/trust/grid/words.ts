import { exactTime } from '../../../shared/lib/format';
import type { Grid } from '../api';

const WORDS: Record<string, string> = {
  '+': 'passed',
  r: 'passed when tried again',
  F: 'failed',
  E: 'errored',
  s: 'skipped',
  n: 'not reached',
  '.': 'not there',
};

/** The failure group of a cell: they are told in the order of the runs. */
export function groupAt(cells: string, groups: number[], run: number): number {
  const before = [...cells.slice(0, run)].filter((sign) => sign === 'F' || sign === 'E').length;
  return groups[before] ?? 0;
}

/** What a test did in a run, and why it failed. */
export function cellWords(grid: Grid, row: number, run: number): string {
  const test = grid.tests[row];
  const column = grid.runs[run];
  const sign = test?.cells[run];
  if (!test || !column || sign === undefined) {
    return '';
  }
  const failing = sign === 'F' || sign === 'E';
  const group = failing ? groupAt(test.cells, test.groups, run) : 0;
  const title = grid.groups.find((one) => one.group === group)?.title;
  return [
    `#${column.number}, ${exactTime(column.startedAt)}`,
    `${test.test.slice(test.test.indexOf('#') + 1)} ${WORDS[sign] ?? sign}${
      title === undefined ? '' : `: ${title}`
    }`,
    column.commit === null ? '' : `commit ${column.commit.slice(0, 10)}`,
    column.branch === null ? '' : `branch ${column.branch}`,
  ]
    .filter((part) => part !== '')
    .join('; ');
}
