// @vitest-environment jsdom

import { cleanup, render } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { counts, NO_CHANGES } from '../testData';
import { ChangesLine } from './ChangesLine';
import { CountsLine } from './CountsLine';

afterEach(() => {
  cleanup();
});

describe('CountsLine', () => {
  it('reads as numbers with words, failing first, without what there is none of', () => {
    const { container } = render(
      <CountsLine counts={counts({ passed: 1200, failed: 3, notReached: 2 })} />,
    );
    expect(container.textContent).toBe('3failed2not reached1,200passed');
  });

  it('says that there are no tests', () => {
    const { container } = render(<CountsLine counts={counts({})} />);
    expect(container.textContent).toBe('no tests');
  });
});

describe('ChangesLine', () => {
  it.each([
    [{ ...NO_CHANGES }, 'nothing changed'],
    [{ ...NO_CHANGES, newFailing: 2, fixed: 1 }, '2 new failing, 1 fixed'],
    [
      {
        newFailing: 1,
        failingAsBefore: 2,
        fixed: 3,
        passedOnRetry: 4,
        added: 5,
        gone: 6,
        renamed: 7,
      },
      '1 new failing, 2 failing as before, 3 fixed, 4 passed on retry, 5 added, 6 gone, 7 renamed',
    ],
  ])('%j', (changes, words) => {
    const { container } = render(<ChangesLine changes={changes} />);
    expect(container.textContent).toBe(words);
  });
});
