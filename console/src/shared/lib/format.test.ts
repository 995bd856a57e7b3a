import { describe, expect, it } from 'vitest';
import { duration, relativeTime } from './format';

describe('duration', () => {
  it.each([
    [0.2, '< 1 ms'],
    [12.4, '12 ms'],
    [3400, '3.4 s'],
    [125_000, '2 min 05 s'],
    [4_200_000, '1 h 10 min'],
  ])('%d ms is %s', (ms, text) => expect(duration(ms)).toBe(text));
});

describe('relativeTime', () => {
  const now = Date.parse('2026-11-20T12:00:00Z');
  it.each([
    ['2026-11-20T11:59:40Z', 'just now'],
    ['2026-11-20T11:15:00Z', '45 minutes ago'],
    ['2026-11-19T12:00:00Z', 'yesterday'],
    ['2026-10-30T12:00:00Z', '3 weeks ago'],
  ])('%s is %s', (iso, text) => expect(relativeTime(iso, now)).toBe(text));
});
