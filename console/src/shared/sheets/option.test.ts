import { describe, expect, it, test } from 'vitest';
import type { Cell, Sheet } from './api';
import { optionOf, roundShares } from './option';

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

describe('the axis of a rate', () => {
  const of = (...numbers: (number | null)[]) =>
    roundShares(
      {
        columns: [],
        left: 0,
        rows: [
          numbers.map((number) => ({ text: null, number, low: null, high: null, link: null })),
        ],
      },
      numbers.map((_, i) => i),
    );
  it.each([
    [[1, 0], { min: 0, max: 1, between: 0.25 }],
    [[1, 0.91], { min: 0.9, max: 1, between: 0.025 }],
    [[0.995, 0.972], { min: 0.97, max: 1, between: 0.01 }],
    [[1, 1], { min: 0.95, max: 1, between: 0.05 }],
    [[0, null], { min: 0, max: 0.05, between: 0.05 }],
    [[0.333], { min: 0.3, max: 0.35, between: 0.05 }],
  ])('goes round what there is: %j', (numbers, axis) => {
    expect(of(...numbers)).toEqual(axis);
  });
  it('never goes beyond all or none, and always holds what there is', () => {
    for (let i = 0; i < 2000; i++) {
      const numbers = [Math.random(), Math.random() ** 9, 1 - Math.random() ** 9].slice(i % 3);
      const { min, max, between } = of(...numbers);
      expect(min).toBeGreaterThanOrEqual(0);
      expect(max).toBeLessThanOrEqual(1);
      expect(min).toBeLessThanOrEqual(Math.min(...numbers) + 1e-6);
      expect(max).toBeGreaterThanOrEqual(Math.max(...numbers) - 1e-6);
      expect(Math.round((max - min) / between)).toBeCloseTo((max - min) / between, 6);
    }
  });
});
