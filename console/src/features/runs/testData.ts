import { attempt } from '../../shared/attempts/testData';
import type { Detail } from '../../shared/attempts/types';
import type { Counts, Part, Result, Run, RunPoint } from './api';

export const NO_COUNTS: Counts = {
  tests: 0,
  passed: 0,
  failed: 0,
  errored: 0,
  skipped: 0,
  notReached: 0,
  retried: 0,
  setUps: 0,
};

export const NO_CHANGES = {
  newFailing: 0,
  failingAsBefore: 0,
  fixed: 0,
  passedOnRetry: 0,
  added: 0,
  renamed: 0,
  gone: 0,
};

export function counts(some: Partial<Counts>): Counts {
  const all = { ...NO_COUNTS, ...some };
  return { ...all, tests: all.passed + all.failed + all.errored + all.skipped + all.notReached };
}

export function point(number: number, some: Partial<Counts>): RunPoint {
  return { number, counts: counts(some) } as RunPoint;
}

export function result(some: Partial<Result>): Result {
  return {
    id: 'r1',
    name: 'roundsUp',
    parameters: null,
    variant: {},
    suite: ['org.skerrow.fares.FareTest'],
    outcome: 'passed',
    durationMs: 12,
    attempts: 1,
    change: null,
    firstLine: null,
    cause: null,
    ...some,
  } as Result;
}

export function part(some: Partial<Part>): Part {
  return {
    number: 1,
    name: 'part 1',
    variant: {},
    receivedAt: '2026-11-20T09:00:00Z',
    startedAt: null,
    endedAt: null,
    brokenOff: false,
    job: null,
    live: false,
    running: [],
    buildUrl: null,
    environment: {},
    counts: counts({ passed: 2 }),
    testTimeMs: 1200,
    files: [],
    attachments: [],
    ...some,
  };
}

export function run(some: Partial<Run>): Run {
  return {
    id: 7,
    stream: 'fares/nightly',
    number: 12,
    open: false,
    explained: true,
    learned: true,
    version: 1,
    startedAt: '2026-11-20T09:00:00Z',
    changedAt: '2026-11-20T09:05:00Z',
    closedAt: '2026-11-20T09:05:00Z',
    closedBy: 'upload',
    commit: null,
    branch: null,
    buildUrl: null,
    description: null,
    labels: {},
    tags: [],
    counts: counts({ passed: 2, failed: 1 }),
    overruled: 0,
    testTimeMs: 3000,
    previousNumber: 11,
    previousBranch: null,
    nextNumber: null,
    changes: NO_CHANGES,
    ...some,
  };
}

export function detail(of: Result, some: Partial<Detail> = {}): Detail {
  return {
    result: of,
    startedAt: null,
    file: null,
    line: null,
    part: 'part 1',
    properties: {},
    tags: [],
    note: { description: null, labels: {}, tags: [] },
    overruling: null,
    stoppedBy: null,
    attempts: [attempt({ outcome: of.outcome })],
    elsewhere: [],
    before: [],
    ...some,
  };
}
