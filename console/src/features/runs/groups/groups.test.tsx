// @vitest-environment jsdom

import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import type { GroupInRun } from '../../../shared/triage/api';
import { choices } from '../../../shared/triage/choices';
import { run } from '../testData';
import { byCategory, isOf, UNSORTED } from './byCategory';
import { GroupRow } from './GroupRow';

afterEach(cleanup);

function group(some: Partial<GroupInRun>): GroupInRun {
  return {
    group: 3,
    title: {
      text: 'no fare for #',
      beside: 'thrown in Fares.split as ArithmeticException',
      fromError: true,
    },
    keyKind: 'frame',
    sentence: 'thrown in `Fares.split` as `ArithmeticException`',
    template: '\nno fare for #',
    results: 4,
    tests: 3,
    open: 4,
    kept: 0,
    first: '1-2',
    test: 'FareTest#rounds',
    said: null,
    returned: false,
    seen: { stream: 'fares/nightly', run: 9, at: '2026-11-01T01:30:00Z', here: false },
    tickets: [],
    ...some,
  };
}

function row(some: Partial<GroupInRun>) {
  return render(<GroupRow group={group(some)} run={run({})} categories={undefined} />).container;
}

describe('GroupRow', () => {
  it('tells the error with its holes, why it is a group, and since when', () => {
    const text = row({}).textContent;
    expect(text).toContain('no fare for ');
    expect(text).toContain('thrown in Fares.split as ArithmeticException');
    expect(text).toContain('unsorted');
    expect(text).toContain('since #9');
    expect(screen.getByLabelText('a value')).toBeTruthy();
    expect(screen.getByTitle('4 results, 3 tests')).toBeTruthy();
  });

  it('does not take a sign in a name for a hole', () => {
    row({
      title: {
        text: 'The element #pay is not as it should be',
        beside: 'not visible',
        fromError: false,
      },
    });
    expect(screen.queryByLabelText('a value')).toBeNull();
    expect(screen.getByText('The element #pay is not as it should be')).toBeTruthy();
  });

  it('says how many are left where a decision does not reach all', () => {
    const said = { decision: 1, category: 'Test fault', origin: 'carried', comment: null, by: 'a' };
    expect(row({ said, open: 1 }).textContent).toContain('carried · 1 left');
  });

  it('is one item with what its set-up kept from running', () => {
    expect(row({ kept: 14 }).textContent).toContain('kept 14 tests from running');
    expect(row({}).textContent).not.toContain('from running');
  });

  it('marks one that came back after it was over', () => {
    expect(row({}).textContent).not.toContain('returned');
    expect(row({ returned: true }).textContent).toContain('returned');
  });

  it('names the stream of the first run when it is another one', () => {
    const seen = { stream: 'other', run: 2, at: '2026-11-01T01:30:00Z', here: false };
    expect(row({ seen }).textContent).toContain('since other #2');
  });
});

describe('categories of a run', () => {
  const said = { decision: 1, category: 'Test fault', origin: 'carried', comment: null, by: 'a' };

  it('count results, not groups: what a decision does not reach is unsorted', () => {
    const groups = [
      group({ results: 9, open: 2, said }),
      group({ results: 3, open: 0, said }),
      group({ results: 5, open: 5 }),
      group({ results: 40, open: 0, said: { ...said, category: 'Product fault' } }),
    ];
    expect(byCategory(groups)).toEqual([
      { category: UNSORTED, results: 7 },
      { category: 'Product fault', results: 40 },
      { category: 'Test fault', results: 10 },
    ]);
    expect(groups.map((one) => isOf(one, UNSORTED))).toEqual([true, false, true, false]);
    expect(groups.map((one) => isOf(one, 'Test fault'))).toEqual([true, true, false, false]);
  });
});

it('offers categories by digits, without retired ones', () => {
  const category = { colour: 'oak', counts: true };
  expect(
    choices([
      { id: 1, name: 'A', retired: true, ...category },
      { id: 2, name: 'B', retired: false, ...category },
    ]),
  ).toEqual([{ digit: '1', name: 'B' }]);
});
