import { describe, expect, it } from 'vitest';
import { again, pause } from './again';
import { ApiError } from './client';

describe('asking once more', () => {
  it.each([
    [404, 0, false],
    [422, 0, false],
    [500, 1, true],
    [500, 2, false],
    [0, 1, true],
    [429, 0, true],
    [429, 5, true],
    [429, 6, false],
  ])('after a %i that came %i times before: %s', (status, failures, wanted) => {
    expect(again(failures, new ApiError(status, 'no'))).toBe(wanted);
  });

  it('spreads those who were too many', () => {
    const pauses = Array.from({ length: 50 }, () => pause(0, new ApiError(429, 'too many')));
    expect(Math.min(...pauses)).toBeGreaterThanOrEqual(1_000);
    expect(Math.max(...pauses)).toBeLessThanOrEqual(3_000);
    expect(new Set(pauses).size).toBeGreaterThan(40);
    expect(pause(1, new ApiError(500, 'no'))).toBe(2_000);
  });
});
