import { describe, expect, it } from 'vitest';
import type { Grid } from '../api';
import { cellWords, groupAt } from './words';

const GRID: Grid = {
  runs: [
    { id: 1, number: 7, startedAt: '2026-11-01T02:00:00Z', commit: 'c0ffee00112233', branch: null },
    { id: 2, number: 8, startedAt: '2026-11-02T02:00:00Z', commit: null, branch: 'main' },
    { id: 3, number: 9, startedAt: '2026-11-03T02:00:00Z', commit: null, branch: null },
    { id: 4, number: 10, startedAt: '2026-11-04T02:00:00Z', commit: null, branch: null },
  ],
  tests: [{ id: 5, test: 'org.Fare#rounds', variant: '', cells: 'Fr.E', groups: [13, 0] }],
  groups: [{ group: 13, title: 'no fare' }],
  more: false,
};

describe('a cell of the grid', () => {
  it('finds its group among those of the failing ones', () => {
    expect(groupAt('F+.EF', [4, 5, 6], 0)).toBe(4);
    expect(groupAt('F+.EF', [4, 5, 6], 3)).toBe(5);
    expect(groupAt('F+.EF', [4, 5, 6], 4)).toBe(6);
    expect(groupAt('+F', [], 1)).toBe(0);
  });

  it('says what failed where, and why', () => {
    expect(cellWords(GRID, 0, 0)).toContain('rounds failed: no fare; commit c0ffee0011');
    expect(cellWords(GRID, 0, 1)).toContain('rounds passed when tried again; branch main');
    expect(cellWords(GRID, 0, 2)).toContain('rounds not there');
    expect(cellWords(GRID, 0, 3)).toMatch(/rounds errored$/);
    expect(cellWords(GRID, 1, 0)).toBe('');
  });
});
