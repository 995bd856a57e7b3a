import { describe, expect, it } from 'vitest';
import type { Moment } from '../api';
import { folded, told, toldFold } from './moment';

function moment(kind: Moment['kind'], more: Partial<Moment> = {}): Moment {
  return {
    at: '2026-11-01T02:00:00Z',
    kind,
    by: null,
    stream: 'quay/nightly',
    run: 1,
    result: null,
    runs: null,
    lastRun: null,
    goesOn: false,
    what: null,
    before: null,
    after: null,
    why: null,
    ...more,
  };
}

function stretch(kind: 'failed' | 'retried', run: number, runs: number): Moment {
  return moment(kind, { run, runs, lastRun: run + runs - 1 });
}

describe('what happened', () => {
  it('folds what would hide the rest, and nothing else', () => {
    const said = moment('explained', { by: 'ada', what: 'Test fault' });
    const lines = folded([
      stretch('retried', 30, 2),
      stretch('failed', 28, 1),
      said,
      stretch('failed', 20, 3),
      stretch('failed', 12, 1),
      moment('came'),
    ]);
    expect(lines.map((one) => ('latest' in one ? 'fold' : one.kind))).toEqual([
      'fold',
      'explained',
      'failed',
      'failed',
      'came',
    ]);
    const fold = lines[0];
    if (fold === undefined || !('latest' in fold)) {
      throw new Error('not folded');
    }
    expect(toldFold(fold)).toBe(
      'Now and then failed in 1 run and passed only when tried again in 2, from',
    );
    expect([fold.first.run, fold.latest.lastRun]).toEqual([28, 31]);
    expect(toldFold({ ...fold, failed: 0 })).toBe(
      'Now and then passed only when tried again in 2 runs, from',
    );
  });

  it.each([
    [stretch('failed', 4, 1), 'Failed in', ''],
    [{ ...stretch('failed', 4, 5), goesOn: true }, 'Failed in 5 runs, up to the latest, from', ''],
    [moment('explained', { by: 'ada', what: 'Test fault' }), 'ada: Test fault', ''],
    [
      moment('noted', { by: 'bo', what: 'description', after: 'x' }),
      'bo wrote the description',
      '',
    ],
    [moment('noted', { by: 'bo', what: 'tags', before: 'x' }), 'bo took away the tags', ''],
    [
      moment('quarantined', { by: 'dee', what: 'quay', after: '2026-12-01' }),
      'dee put it in quarantine everywhere',
      'until 2026-12-01; quay has it',
    ],
    [
      moment('renamed', { by: 'ada', before: 'a', after: 'b' }),
      'ada said that “a” goes on as “b”',
      '',
    ],
  ])('says %#', (one, before, behind) => {
    expect(told(one)).toMatchObject({ before, behind });
  });
});
