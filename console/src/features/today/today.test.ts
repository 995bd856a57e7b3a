import { describe, expect, it } from 'vitest';
import type { StreamToday } from './api';
import { doubt, further, isQuiet, rowsOf, type Stream, some } from './model';

function stream(
  name: string,
  counts: Partial<Stream['latest']['counts']>,
  missing = false,
): Stream {
  const all = {
    tests: 0,
    passed: 0,
    failed: 0,
    errored: 0,
    skipped: 0,
    notReached: 0,
    retried: 0,
    setUps: 0,
    ...counts,
  };
  return {
    name,
    missing: missing ? { expectedAt: '2026-11-20T02:00:00Z' } : null,
    latest: { number: 3, open: false, counts: all },
  } as Stream;
}

function today(name: string, some: Partial<StreamToday>): StreamToday {
  return {
    stream: name,
    run: 3,
    failures: 0,
    open: 0,
    fresh: 0,
    explained: true,
    outage: null,
    ...some,
  };
}

const outage = {
  group: 1,
  title: { text: 'db refuses connections', beside: 'refused', fromError: false },
  keyKind: 'environment',
  sentence: '`db` refuses connections',
  template: 'refused',
  results: 90,
  tests: 100,
};

describe('streams of today', () => {
  it('come by what needs somebody: missing runs, outages, doubts, new causes, what is unsorted', () => {
    const streams = [
      stream('quiet', { tests: 2, passed: 2 }),
      stream('open', { tests: 3, failed: 2, passed: 1 }),
      stream('fresh', { tests: 2, failed: 1, passed: 1 }),
      stream('cut', { tests: 2, passed: 1, notReached: 1 }),
      stream('out', { tests: 100, failed: 90, passed: 10 }),
      stream('missing', { tests: 1, passed: 1 }, true),
    ];
    const todays = [
      today('open', { open: 2 }),
      today('fresh', { open: 1, fresh: 1 }),
      today('out', { outage }),
    ];
    expect(rowsOf(streams, todays).map((row) => row.stream.name)).toEqual([
      'missing',
      'out',
      'cut',
      'fresh',
      'open',
      'quiet',
    ]);
  });

  it.each([
    [{ tests: 3, passed: 2, notReached: 1 }, '1 test was not reached'],
    [{ tests: 0 }, 'no test ran'],
    [{ tests: 3, skipped: 3 }, 'not one test passed'],
    [{ tests: 3, passed: 2, skipped: 1 }, undefined],
  ])('%j is no green run: %s', (counts, words) => {
    expect(doubt(stream('a', counts))).toBe(words);
  });

  it('are quiet only when all is explained and nothing is in doubt', () => {
    const green = stream('a', { tests: 1, passed: 1 });
    expect(isQuiet({ stream: green, today: undefined })).toBe(true);
    expect(isQuiet({ stream: green, today: today('a', { explained: false }) })).toBe(false);
    expect(isQuiet({ stream: green, today: today('a', { open: 1 }) })).toBe(false);
    expect(isQuiet({ stream: green, today: today('a', { outage }) })).toBe(false);
    expect(isQuiet({ stream: stream('a', { tests: 1, skipped: 1 }), today: undefined })).toBe(
      false,
    );
  });
});

describe('tests that are told of', () => {
  it.each([
    [3, '3', 'all'],
    [9, '9', 'and 1 more, in the list'],
    [19, '19', 'and 11 more, in the list'],
    [20, '20 or more', 'and more, in the list'],
  ])('are never told as fewer: %i', (told, words, link) => {
    expect(some(told)).toBe(words);
    expect(further(told, 8, 'all')).toBe(link);
  });
});
