import { describe, expect, it } from 'vitest';
import { narrow, readQuick } from './quick';

describe('quick filters', () => {
  it.each([
    [{ outcomes: ['failed' as const] }, 'outcome eq "failed"'],
    [
      { outcomes: ['failed' as const, 'not reached' as const] },
      'outcome eq "failed" or outcome eq "not reached"',
    ],
    [
      { outcomes: ['failed' as const, 'errored' as const], text: 'a "b"' },
      '(outcome eq "failed" or outcome eq "errored") and text co "a \\"b\\""',
    ],
    [{ change: 'new failing', setUps: true }, 'setUp eq true and change eq "new failing"'],
    [{ overruled: true }, 'overruled eq true'],
  ])('%o are terms of the filter and found again', (quick, filter) => {
    expect(narrow('', quick)).toBe(filter);
    expect(readQuick(filter)).toMatchObject({ ...quick, rest: [] });
    expect(narrow(filter, {})).toBe(filter);
  });

  it('leave the terms alone that they do not know', () => {
    const filter = 'duration gt 2 and label.team eq "fares"';
    const more = narrow(filter, { outcomes: ['failed'] });
    expect(more).toBe(`outcome eq "failed" and ${filter}`);
    expect(narrow(more, { outcomes: [] })).toBe(filter);
    const either = 'duration gt 2 or tag eq "slow"';
    expect(narrow(either, { text: 'x' })).toBe(`text co "x" and (${either})`);
    expect(narrow(narrow(either, { text: 'x' }), { text: '' })).toBe(either);
    expect(readQuick('outcome eq "failed" and outcome eq "errored"')).toMatchObject({
      outcomes: ['failed'],
      rest: ['outcome eq "errored"'],
    });
  });
});
