import { describe, expect, it } from 'vitest';
import type { Outcome } from '../../shared/ui/OutcomeGlyph';
import type { Stream } from './api';
import {
  byNeed,
  changeWords,
  cleaned,
  displayName,
  elsewhereWords,
  failingSince,
  failingWords,
  needsALook,
  otherResult,
  pinText,
  readPin,
  readRunSearch,
  runAbout,
  runTitle,
  shortSuite,
  sinceWords,
  whereOf,
  worst,
} from './model';
import { counts, detail, NO_CHANGES, NO_COUNTS as NONE, point, result } from './testData';

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

  it('reads what is looked at inside a result', () =>
    expect(
      readRunSearch({
        find: 42,
        attempt: 2,
        levels: ['warn', 'loud', 'error'],
        steps: ['failed', 7],
        pin: 'a/b/3:1-7:2',
      }),
    ).toEqual({
      find: '42',
      attempt: 2,
      levels: ['error', 'warn'],
      steps: ['failed'],
      pin: 'a/b/3:1-7:2',
    }));

  it.each([
    { pin: 'a/b' },
    { pin: '1-7:2' },
    { pin: 'a/b/3:1-7:0x' },
    { attempt: -1 },
    { attempt: 1.5 },
    { levels: 'error' },
    { steps: { 0: 'failed' } },
    { find: '' },
  ])('%j is nothing', (search) => expect(cleaned(readRunSearch(search))).toEqual({}));
});

describe('a pin', () => {
  it('is read as it was written', () => {
    const pin = { stream: 'a:b/c/1', number: 12, result: '3-700', attempt: 2 };
    expect(readPin(pinText(pin))).toEqual(pin);
  });

  it('stays when a result of another run is gone to', () =>
    expect(
      otherResult({ result: '1-1', attempt: 3, filter: 'name pr', pin: 'a/1:1-1:1' }, '2-2'),
    ).toEqual({ result: '2-2', pin: 'a/1:1-1:1' }));
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

describe('elsewhereWords', () => {
  const other = (browser: string | undefined, outcome: Outcome) => ({
    result: '1-0',
    variant: browser === undefined ? {} : { browser },
    part: 'shard 2',
    outcome,
  });
  it.each([
    ['passed', [other('firefox', 'passed')], ''],
    ['failed', [other('firefox', 'passed'), other('chromium', 'passed')], 'fails in webkit only'],
    ['passed', [other('firefox', 'errored'), other('chromium', 'passed')], 'fails in firefox only'],
    [
      'failed',
      [other('firefox', 'failed'), other('chromium', 'passed')],
      'fails in webkit and firefox only',
    ],
    ['failed', [other('firefox', 'failed')], 'fails in all 2'],
    ['passed', [other(undefined, 'failed')], 'fails in shard 2 only'],
    ['failed', [other('webkit', 'passed')], 'fails in part 1 only'],
  ] as const)('of a test that %s here', (outcome, elsewhere, words) => {
    const here = result({ outcome, variant: { browser: 'webkit' } });
    expect(elsewhereWords(detail(here, { elsewhere: [...elsewhere] }))).toBe(words);
  });
});

it('tells places apart by what differs, and says what a bare number is', () => {
  const here = result({ outcome: 'failed', variant: { jdk: '17', os: 'reef' } });
  const there = {
    result: '2-0',
    variant: { jdk: '21', os: 'reef' },
    part: 'b',
    outcome: 'passed' as const,
  };
  const both = detail(here, { elsewhere: [there] });
  expect(elsewhereWords(both)).toBe('fails in jdk 17 only');
  expect(whereOf(there, both)).toBe('jdk 21');
});

describe('failingSince', () => {
  const runs = (...outcomes: string[]) => outcomes.map((outcome, i) => ({ run: 40 - i, outcome }));
  const always = runs(...Array.from({ length: 30 }, () => 'failed'));

  it.each([
    ['nothing before', [], null],
    ['it passed before', runs('passed', 'failed'), null],
    ['two before', runs('failed', 'errored', 'passed', 'failed'), { run: 39, orLonger: false }],
    ['since the first', runs('failed', 'failed'), { run: 39, orLonger: false }],
    ['a skip in between', runs('failed', 'skipped', 'failed'), { run: 38, orLonger: false }],
    ['as far as is told', always, { run: 11, orLonger: true }],
  ])('%s', (_, earlier, since) => {
    expect(failingSince(earlier)).toEqual(since);
  });
});

describe('sinceWords', () => {
  const run = { number: 9, branch: 'fares', previousNumber: 8, previousBranch: 'fares' };

  it.each([
    [run, 'Since #8:'],
    [{ ...run, previousBranch: 'main' }, 'Since #8 of main:'],
    [{ ...run, previousBranch: null }, 'Since #8 of no branch:'],
    [{ ...run, previousNumber: null, previousBranch: null }, 'Nothing before it to compare with'],
    [{ ...run, number: 1, previousNumber: null, previousBranch: null }, 'The first run'],
  ])('%s', (of, words) => {
    expect(sinceWords(of)).toBe(words);
  });
});

describe('runAbout', () => {
  it('takes labels of a fixed meaning apart from the rest', () => {
    expect(
      runAbout({ trigger: 'schedule', by: 'mira', version: '2.4', tester: 'jonas', env: 'test' }),
    ).toEqual({
      started: 'schedule, mira',
      tested: '2.4',
      tester: 'jonas',
      other: { env: 'test' },
    });
    expect(runAbout({}).started).toBeNull();
  });
});
