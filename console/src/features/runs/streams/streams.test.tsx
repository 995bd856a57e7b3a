// @vitest-environment jsdom

import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { point } from '../testData';
import { Trend } from './Trend';

afterEach(() => {
  cleanup();
});

describe('Trend', () => {
  it('needs two runs', () => {
    render(<Trend points={[point(1, { passed: 1 })]} />);
    expect(screen.getByText('A trend needs two runs.')).toBeTruthy();
  });

  it('tells in words what it draws', () => {
    render(
      <Trend
        points={[
          point(1, { passed: 8, failed: 2 }),
          point(2, { passed: 20, failed: 3, errored: 2 }),
          point(9, { passed: 24, failed: 1 }),
        ]}
      />,
    );
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe(
      'From run 1 to 9: up to 25 tests, at most 5 failing, 1 failing now',
    );
  });

  it('places runs as they happened, whatever their numbers', () => {
    const { container } = render(
      <Trend
        points={[point(7, { passed: 4 }), point(11, { passed: 2 }), point(2, { passed: 4 })]}
      />,
    );
    expect(container.querySelectorAll('path')[1]?.getAttribute('d')).toBe('M0 8L320 54L640 8');
  });
});
