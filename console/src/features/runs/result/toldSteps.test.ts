import { describe, expect, it } from 'vitest';
import type { StepBeside } from '../api';
import { toldSteps } from './toldSteps';

/** Rows by their depths, with an exclamation mark where one differs. */
function told(text: string, all = false): string {
  const rows = text.split(' ').map((word) => ({
    depth: Number(word[0]),
    before: null,
    now: { text: word, outcome: 'passed', status: null, durationMs: null },
    differs: word.endsWith('!'),
  })) satisfies StepBeside[];
  return toldSteps(rows, all)
    .map((one) => (one.row ? (one.row.now?.text ?? '') : `(${one.same})`))
    .join(' ');
}

describe('steps that are told', () => {
  it.each([
    ['0a 0b 0c!', '(2) 0c!'],
    ['0a 1b 2c! 1d 0e', '0a 1b 2c! (2)'],
    ['0a 1b 1c 0d 1e!', '(3) 0d 1e!'],
    ['0a 1b 2c 2d! 2e 1f! 0g', '0a 1b (1) 2d! (1) 1f! (1)'],
    ['0a! 1b 1c 0d', '0a! (3)'],
    ['0a 1b', '(2)'],
  ])('of %s are %s', (rows, expected) => {
    expect(told(rows)).toBe(expected);
    expect(told(rows, true)).toBe(rows);
  });
});
