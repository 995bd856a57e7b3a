import { describe, expect, it } from 'vitest';
import { readSignInSearch, suggestedKey } from './model';

describe('readSignInSearch', () => {
  it.each(['/', '/skerrow/runs', '/skerrow/runs/fares/nightly/12?text=a'])('goes on at %s', (to) =>
    expect(readSignInSearch({ to })).toEqual({ to }),
  );

  it.each([
    'https://evil.example',
    '//evil.example',
    '/\\evil.example',
    'javascript:alert(1)',
    'skerrow',
    '',
    7,
    undefined,
  ])('does not go on at %s', (to) => expect(readSignInSearch({ to, other: 1 })).toEqual({}));
});

describe('suggestedKey', () => {
  it.each([
    ['Skerrow Line', 'skerrow-line'],
    ['  Île d’Höfn & Co. ', 'ile-d-hofn-co'],
    ['---', ''],
    ['x'.repeat(80), 'x'.repeat(64)],
  ])('of %s is %s', (name, key) => expect(suggestedKey(name)).toBe(key));
});
