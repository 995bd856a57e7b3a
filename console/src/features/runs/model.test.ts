import { describe, expect, it } from 'vitest';
import type { Stream } from './api';
import {
  byNeed,
  changeWords,
  displayName,
  failingWords,
  needsALook,
  readRunSearch,
  runTitle,
  shortSuite,
  worst,
} from './model';
import { counts, NO_CHANGES, NO_COUNTS as NONE, point } from './testData';

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
    expect(readRunSearch({ filter: 'name pr', result: 12, view: 'other', evil: 1 })).toEqual({
      filter: 'name pr',
    }));
});

describe('changeWords', () => {
  it('leaves out what there is none of', () =>
    expect(changeWords({ ...NO_CHANGES, newFailing: 2, fixed: 1 })).toEqual([
      { change: 'new failing', count: 2, text: '2 new failing' },
      { change: 'fixed', count: 1, text: '1 fixed' },
    ]));
});

describe('byNeed', () => {
  const stream = (name: string, failed: number, newFailing: number) =>
    ({
      name,
      latest: { counts: counts({ passed: 1, failed }), changes: { ...NO_CHANGES, newFailing } },
    }) as Stream;

  it('puts new failures first, then old ones, then the rest by name', () => {
    const sorted = byNeed([
      stream('green-b', 0, 0),
      stream('old', 3, 0),
      stream('green-a', 0, 0),
      stream('new', 1, 1),
    ]);
    expect(sorted.map((s) => s.name)).toEqual(['new', 'old', 'green-a', 'green-b']);
  });

  it('leaves the list it was given as it was', () => {
    const given = [stream('b', 0, 0), stream('a', 0, 0)];
    byNeed(given);
    expect(given.map((s) => s.name)).toEqual(['b', 'a']);
  });
});

describe('the words for a run and a test', () => {
  it.each([
    [point(7, { passed: 3 }), '#7: nothing failed of 3'],
    [point(8, { passed: 3, failed: 1, errored: 1 }), '#8: 2 failing of 5'],
  ])('%#', (run, title) => expect(runTitle(run)).toBe(title));

  it('put parameters behind the name', () => {
    expect(displayName({ name: 'adds', parameters: '[2-3]' })).toBe('adds[2-3]');
    expect(displayName({ name: 'adds', parameters: null })).toBe('adds');
  });
});

describe('what failed', () => {
  it.each([
    [{}, 'nothing failed', false],
    [{ failed: 2, errored: 1 }, '3 failing', true],
    [{ setUps: 1 }, '1 set-up failed', true],
    [{ setUps: 2, failed: 1 }, '2 set-ups failed, 1 failing', true],
  ])('%j is told as “%s”', (some, words, look) => {
    expect(failingWords(counts(some))).toBe(words);
    expect(needsALook(counts(some))).toBe(look);
  });
});
