import { describe, expect, it, test } from 'vitest';
import type { Cell, Kind, Sheet } from '../api';
import { ofCounts, ofSeconds, ofShares } from './axis';
import { columnAt, plotOf, rowAt } from './plot';

function cell(number: number | null, text: string | null = null): Cell {
  return { text, number, low: null, high: null, link: null };
}

function sheet(keys: string[], unit: 'count' | 'share', rows: (number | null)[][]): Sheet {
  return {
    columns: [
      { key: 'at', unit: 'time', values: [] },
      ...keys.map((key) => ({ key, unit, values: [] })),
    ],
    rows: rows.map((row, i) => [
      cell(null, new Date(Date.UTC(2026, 10, 1 + i)).toISOString()),
      ...row.map((number) => cell(number)),
    ]),
    left: 0,
    shifts: [],
  };
}

const wide = (text: string) => text.length * 6;
const plot = (of: Sheet, kind: Kind, width = 400) =>
  plotOf(of, { kind, step: 'day' }, { width, height: 200 }, wide);

describe('bars by outcome', () => {
  const of = sheet(['passed', 'failed', 'errored', 'runs'], 'count', [
    [9000, 1, 0, 1],
    [null, null, null, null],
    [10, 20, 30, 1],
  ]);
  const made = plot(of, 'outcomes');

  it('stand on each other, what failed on the axis; runs are not drawn', () => {
    expect(made.marks.map((one) => one.head.key)).toEqual(['failed', 'errored', 'passed']);
    const last = made.marks.map((one) => one.bars.find((bar) => bar.row === 2));
    expect((last[0]?.y ?? 0) + (last[0]?.height ?? 0)).toBeCloseTo(made.field.bottom, 0);
    expect((last[1]?.y ?? 0) + (last[1]?.height ?? 0)).toBeCloseTo(last[0]?.y ?? 0, 0);
  });

  it('leave a gap where no run was, and show one failure beside 9 000 that passed', () => {
    expect(made.marks.flatMap((one) => one.bars).every((bar) => bar.row !== 1)).toBe(true);
    const one = made.marks[0]?.bars[0];
    expect(one?.height).toBeGreaterThanOrEqual(2);
    const x = (one?.x ?? 0) + 2;
    // It is hit where it is, and a little beside that.
    expect(columnAt(made, 0, x, (one?.y ?? 0) - 2)).toBe(2);
    expect(columnAt(made, 0, x, 100)).toBe(1);
    expect(columnAt(made, 1, x, 100)).toBeUndefined();
  });

  it('are found again by where they are, every one of them', () => {
    for (const mark of made.marks) {
      for (const bar of mark.bars) {
        const x = bar.x + bar.width / 2;
        expect(rowAt(made, x, of.rows.length)).toBe(bar.row);
        expect(columnAt(made, bar.row, x, bar.y + bar.height / 2)).toBe(mark.column);
      }
    }
  });
});

test('bars beside each other share the place of those that are there, and no more', () => {
  const keys = ['added', 'gone', 'renamed', 'new failing', 'fixed'];
  const of = sheet(keys, 'count', [
    [0, 0, 0, 97, 0],
    [0, 3, 0, 5, 2],
    [null, null, null, null, null],
    [1, 0, 0, 0, 4],
  ]);
  const made = plot(of, 'growth');
  const bars = made.marks.flatMap((mark) => mark.bars.map((bar) => ({ ...bar, at: mark.column })));
  expect(bars).toHaveLength(6);
  expect(new Set(bars.map((bar) => bar.width)).size).toBe(1);
  for (const row of [0, 1, 3]) {
    const here = bars.filter((bar) => bar.row === row).sort((a, b) => a.x - b.x);
    expect(here.map((bar) => bar.at)).toEqual([...here.map((bar) => bar.at)].sort());
    for (const [i, bar] of here.entries()) {
      expect(bar.x).toBeGreaterThanOrEqual(i === 0 ? 0 : (here[i - 1]?.x ?? 0) + bar.width);
      const x = bar.x + bar.width / 2;
      expect(columnAt(made, row, x, bar.y + bar.height / 2)).toBe(bar.at);
      expect(rowAt(made, x, of.rows.length)).toBe(row);
    }
  }
});

test('a line has gaps, and a point between two of them is seen', () => {
  const rates = Array.from({ length: 90 }, (_, i) => [
    i % 30 === 10 ? null : i === 45 ? 0.5 : null,
  ]);
  const [mark] = plot(sheet(['rate'], 'share', rates), 'rate').marks;
  expect(mark?.dotted).toBe(false);
  expect(mark?.points).toHaveLength(1);
  expect(plot(sheet(['rate'], 'share', [[1], [null], [0.9]]), 'rate').marks[0]?.line).toMatch(
    /^M[^M]*M/,
  );
});

test('names of rows do not lie on each other, and the last one is there', () => {
  for (const [rows, width] of [
    [3, 300],
    [30, 300],
    [400, 900],
    [1500, 200],
  ] as const) {
    const { names } = plot(
      sheet(
        ['rate'],
        'share',
        Array.from({ length: rows }, () => [1]),
      ),
      'rate',
      width,
    );
    expect(names.length).toBeGreaterThan(0);
    names.forEach((name, i) => {
      const next = names[i + 1];
      if (next) expect(next.x - name.x).toBeGreaterThan(wide(name.text));
    });
  }
});

describe('the axis of a rate', () => {
  it.each([
    [
      [1, 0],
      [0, 0.25, 0.5, 0.75, 1],
    ],
    [
      [1, 0.91],
      [0.9, 0.925, 0.95, 0.975, 1],
    ],
    [
      [0.995, 0.972],
      [0.97, 0.98, 0.99, 1],
    ],
    [
      [1, 1],
      [0.95, 1],
    ],
    [[0], [0, 0.05]],
    [[0.333], [0.3, 0.35]],
  ])('goes round what there is: %j', (numbers, rules) => {
    const axis = ofShares(numbers);
    expect(axis.rules.map((rule) => rule.value)).toEqual(rules);
    expect([axis.min, axis.max]).toEqual([rules[0], rules.at(-1)]);
  });

  it('never goes beyond all or none, and always holds what there is', () => {
    for (let i = 0; i < 2000; i++) {
      const numbers = [Math.random(), Math.random() ** 9, 1 - Math.random() ** 9].slice(i % 3);
      const { min, max, rules } = ofShares(numbers);
      expect(min).toBeGreaterThanOrEqual(0);
      expect(max).toBeLessThanOrEqual(1);
      expect(min).toBeLessThanOrEqual(Math.min(...numbers) + 1e-6);
      expect(max).toBeGreaterThanOrEqual(Math.max(...numbers) - 1e-6);
      expect(rules.length).toBeLessThanOrEqual(5);
    }
  });
});

test('axes of counts and of times hold what there is, with few lines', () => {
  for (let i = 0; i < 2000; i++) {
    const most = Math.random() * 10 ** (i % 9);
    for (const axis of [ofCounts(Math.round(most)), ofSeconds(most)]) {
      expect(axis.min).toBe(0);
      expect(axis.max).toBeGreaterThanOrEqual(Math.floor(most));
      expect(axis.rules.length).toBeGreaterThanOrEqual(2);
      expect(axis.rules.length).toBeLessThanOrEqual(8);
      expect(new Set(axis.rules.map((rule) => rule.text)).size).toBe(axis.rules.length);
    }
  }
});
