import { count, duration, exactTime, plural } from '../lib/format';
import type { Cell, Column, Sheet } from './api';

const HEADS: Record<string, string> = {
  at: 'From',
  rate: 'Pass rate',
  time: 'Time of tests, a run',
  change: 'Change',
  standing: 'Minimum',
  tests: 'Results',
  'different tests': 'Tests',
  spent: 'Time of tests',
  'run median': 'Half of runs in',
  'run p90': '9 of 10 runs in',
  'run p95': '19 of 20 runs in',
  'spent failing': 'Spent on failures',
  'spent again': 'Spent on retries',
  p90: '9 of 10 in',
  p95: '19 of 20 in',
  red: 'Red runs',
  runs: 'Runs',
  run: 'Run',
  test: 'Test',
  suite: 'Suite',
  now: 'Takes now',
  before: 'Took before',
  median: 'Half of them in',
  mean: 'In the mean',
  group: 'Failure group',
  'passed on retry': 'On retry',
};

/** The head of a column. */
export function headOf(column: Column): string {
  if (column.values.length > 0) {
    return column.values.map(valueWords).join(' · ');
  }
  const head = HEADS[column.key] ?? column.key.replace(/^label\./, '');
  return head.charAt(0).toUpperCase() + head.slice(1);
}

/** A value of what runs are told apart by; some have none. */
export function valueWords(value: string | null): string {
  return value ?? 'none';
}

/** What stands in a cell, for people. */
export function wordsOf(column: Column, cell: Cell): string {
  if (column.unit === 'time') {
    return cell.text === null ? '' : exactTime(cell.text);
  }
  if (column.key === 'suite') {
    // Of a class its own name; where it stands is the same for many.
    return (cell.text ?? '').replace(/^[\w.]+\.(?=\w+$)/, '');
  }
  if (column.unit === 'text') {
    return column.key === 'standing' ? (STANDINGS[cell.text ?? ''] ?? '') : valueWords(cell.text);
  }
  if (cell.number === null) {
    // Runs of which nothing came to an end are something else than no run.
    return column.key === 'rate' && cell.link !== null ? 'not known' : '–';
  }
  switch (column.unit) {
    case 'share':
      return column.key === 'change' ? signed(cell.number) : percent(cell.number);
    case 'seconds':
      return cell.number === 0 ? '0 s' : duration(cell.number * 1000);
    default:
      return count(cell.number);
  }
}

const STANDINGS: Record<string, string> = {
  holds: 'holds',
  misses: 'missed',
  unknown: 'not known',
};

/** Never rounded to all or none where it is not. */
export function percent(share: number): string {
  if (share === 0 || share === 1) {
    return `${share * 100} %`;
  }
  const tenths = Math.min(999, Math.max(1, Math.round(share * 1000)));
  return `${(tenths / 10).toFixed(1)} %`;
}

function signed(share: number): string {
  const points = share * 100;
  return `${points > 0 ? '+' : points < 0 ? '−' : '±'}${Math.abs(points).toFixed(1)}`;
}

/** How many there are, shown or not. */
export function manyRows({ rows, left }: Pick<Sheet, 'rows' | 'left'>): string {
  return left < 0
    ? `more than ${plural(rows.length, 'row')}`
    : `${plural(rows.length + left, 'row')} in all`;
}
