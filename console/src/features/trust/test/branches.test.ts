import { describe, expect, it } from 'vitest';
import type { PastResult } from '../api';
import { branchesApart } from './branches';

const of = (branches: (string | null)[]) =>
  branches.map((branch, run) => ({ run, branch }) as PastResult);

describe('branchesApart', () => {
  it.each([
    [[], []],
    [[null, null], ['no branch told: 0 1']],
    [
      ['a', 'main', 'b', 'main', null, 'main', 'a'],
      ['main: 1 3 5', 'a: 0 6', 'other branches: 2', 'no branch told: 4'],
    ],
    [['a', 'b', 'c'], ['branches: 0 1 2']],
  ] as [(string | null)[], string[]][])('%j', (branches, rows) => {
    expect(
      branchesApart(of(branches)).map(
        (row) => `${row.name}: ${row.results.map((one) => one.run).join(' ')}`,
      ),
    ).toEqual(rows);
  });

  it('loses none, however many branches there are', () => {
    const many = of(Array.from({ length: 100 }, (_, i) => `b${i % 30}`));
    const rows = branchesApart(many);
    expect(rows.length).toBe(9);
    expect(rows.flatMap((row) => row.results).length).toBe(100);
  });
});
