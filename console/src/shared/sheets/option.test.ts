import { expect, test } from 'vitest';
import type { Cell, Sheet } from './api';
import { optionOf } from './option';

function cell(number: number | null, text: string | null = null): Cell {
  return { text, number, low: null, high: null, link: null };
}

const OUTCOMES: Sheet = {
  columns: [
    { key: 'at', unit: 'time', values: [] },
    { key: 'passed', unit: 'count', values: [] },
    { key: 'failed', unit: 'count', values: [] },
    { key: 'runs', unit: 'count', values: [] },
  ],
  rows: [
    [cell(null, '2026-11-01T00:00:00Z'), cell(90), cell(2), cell(1)],
    [cell(null, '2026-11-02T00:00:00Z'), cell(null), cell(null), cell(null)],
  ],
  left: 0,
};

interface Drawn {
  legend?: { data: string[] };
  series: { id: string; data: (number | null)[]; connectNulls: boolean }[];
  tooltip: { formatter: (points: { dataIndex: number }[]) => string };
}

function drawn(sheet: Sheet, kind: 'outcomes' | 'rate'): Drawn {
  return optionOf(sheet, kind, 'day', (name) => name) as unknown as Drawn;
}

test('what fails stands on the axis, runs are not drawn, and a gap stays one', () => {
  const option = drawn(OUTCOMES, 'outcomes');
  expect(option.legend?.data).toEqual(['Failed', 'Passed']);
  expect(option.series.map((one) => [one.id, one.data])).toEqual([
    ['2', [2, null]],
    ['1', [90, null]],
  ]);
  expect(option.series.every((one) => !one.connectNulls)).toBe(true);
  expect(option.tooltip.formatter([{ dataIndex: 1 }])).toContain('no run');
});

test('what somebody called a team is no markup in a tip', () => {
  const sheet: Sheet = {
    columns: [
      { key: 'at', unit: 'time', values: [] },
      { key: 'rate', unit: 'share', values: ['<img src=x onerror=alert(1)>'] },
    ],
    rows: [[cell(null, '2026-11-01T00:00:00Z'), cell(0.5)]],
    left: 0,
  };
  const tip = drawn(sheet, 'rate').tooltip.formatter([{ dataIndex: 0 }]);
  expect(tip).toContain('&lt;img src=x');
  expect(tip).not.toContain('<img');
});
