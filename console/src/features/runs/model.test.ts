import { describe, expect, it } from 'vitest';
import { changeWords, readRunSearch, shortSuite, worst } from './model';

const NONE = { tests: 0, passed: 0, failed: 0, errored: 0, skipped: 0, notReached: 0, retried: 0 };

describe('worst', () => {
  it.each([
    [{ ...NONE, passed: 9, failed: 1, errored: 4 }, 'failed'],
    [{ ...NONE, passed: 9, errored: 1 }, 'errored'],
    [{ ...NONE, passed: 1, skipped: 8 }, 'passed'],
    [{ ...NONE, notReached: 2 }, 'not reached'],
    [{ ...NONE, skipped: 1 }, 'skipped'],
  ] as const)('%j is %s', (counts, outcome) => expect(worst(counts)).toBe(outcome));
});

describe('shortSuite', () => {
  it.each([
    ['org.skerrow.fares.FareTest', 'FareTest'],
    ['tests.test_kiosk', 'tests.test_kiosk'],
    ['Sailing search > by day', 'Sailing search > by day'],
  ])('%s is %s', (name, short) => expect(shortSuite(name)).toBe(short));
});

describe('readRunSearch', () => {
  it('drops what is not ours', () =>
    expect(
      readRunSearch({ outcome: ['failed', 'x', 3], text: 12, view: 'other', evil: 1 }),
    ).toEqual({
      outcome: ['failed'],
      text: '12',
    }));
});

describe('changeWords', () => {
  it('leaves out what there is none of', () =>
    expect(
      changeWords({
        newFailing: 2,
        stillFailing: 0,
        fixed: 1,
        passedOnRetry: 0,
        added: 0,
        gone: 0,
      }),
    ).toEqual([
      { change: 'new failing', count: 2, text: '2 new failing' },
      { change: 'fixed', count: 1, text: '1 fixed' },
    ]));
});
