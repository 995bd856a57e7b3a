import { expect, test } from 'vitest';
import type { Column } from '../../shared/sheets/api';
import { percent, wordsOf } from '../../shared/sheets/words';
import { COLUMNS, newPanel, placed, readBoardSearch } from './model';
import type { Panel } from './types';

function at(x: number, y: number, width: number, height: number): Panel {
  return { ...newPanel([]), x, y, width, height };
}

/** Numbers that come again. */
function draws(seed: number) {
  let state = seed;
  return (below: number) => {
    state = (state * 1103515245 + 12345) % 2147483648;
    return Math.floor((state / 2147483648) * below);
  };
}

test('wherever panels are put, none lies on another or leaves the grid', () => {
  const draw = draws(7);
  let panels: Panel[] = [at(0, 0, 6, 4), at(6, 0, 6, 4), at(0, 4, 12, 3), at(0, 7, 4, 2)];
  for (let round = 0; round < 500; round++) {
    const i = draw(panels.length);
    const wanted = at(draw(16) - 2, draw(14) - 2, draw(15), draw(8));
    panels = placed(panels, i, wanted);
    const cells = panels.reduce((sum, one) => sum + one.width * one.height, 0);
    const taken = new Set<string>();
    for (const one of panels) {
      expect(one.x >= 0 && one.y >= 0 && one.x + one.width <= COLUMNS && one.width >= 2).toBe(true);
      for (let x = one.x; x < one.x + one.width; x++) {
        for (let y = one.y; y < one.y + one.height; y++) {
          taken.add(`${x} ${y}`);
        }
      }
    }
    expect(taken.size).toBe(cells);
    expect(panels[i]?.y).toBe(Math.max(0, wanted.y));
  }
});

test('a share is never rounded to all or none', () => {
  expect([0, 0.0001, 0.5, 0.98765, 0.99999, 1].map(percent)).toEqual([
    '0 %',
    '0.1 %',
    '50.0 %',
    '98.8 %',
    '99.9 %',
    '100 %',
  ]);
});

test('what is not known is said', () => {
  const empty = { text: null, number: null, low: null, high: null, link: null };
  const rate: Column = { key: 'rate', unit: 'share', values: [] };
  const runs = { of: 'run', filter: 'number eq 1' } as const;
  // Of runs of which nothing came to an end; where no run is there is nothing to know.
  expect(wordsOf(rate, { ...empty, link: runs })).toBe('not known');
  expect(wordsOf(rate, empty)).toBe('–');
  expect(wordsOf({ key: 'failed', unit: 'count', values: [] }, empty)).toBe('–');
  expect(wordsOf({ key: 'failed', unit: 'count', values: [] }, { ...empty, number: 0 })).toBe('0');
});

test('an address with nonsense is read as one without it', () => {
  expect(readBoardSearch({ days: '0', filter: 3, edit: 'yes' })).toEqual({});
  expect(readBoardSearch({ days: 14, filter: 'open eq true', edit: true })).toEqual({
    days: 14,
    filter: 'open eq true',
    edit: true,
  });
});
