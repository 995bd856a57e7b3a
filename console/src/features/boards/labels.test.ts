import { expect, it, test } from 'vitest';
import { joinTerms, splitTerms } from '../../shared/filter/terms';
import { chosenOf, labelsOf, switched } from './labels';
import type { Panel } from './types';

it.each([
  ['', 'env', 'staging', 'label.env eq "staging"'],
  ['label.env eq "live"', 'env', 'staging', 'label.env eq "staging"'],
  ['label.env eq "live"', 'env', undefined, ''],
  ['open eq true', 'env', 'a "b" \\ c', 'open eq true and label.env eq "a \\"b\\" \\\\ c"'],
  [
    'failed gt 0 or errored gt 0',
    'team',
    'fares',
    '(failed gt 0 or errored gt 0) and label.team eq "fares"',
  ],
  [
    'label.team eq "x" and label.env eq "live" and open eq true',
    'env',
    undefined,
    'label.team eq "x" and open eq true',
  ],
  // What says something else about a label is left as it is.
  ['label.env ne "live"', 'env', 'live', 'label.env ne "live" and label.env eq "live"'],
])('%j switched by %s to %j', (filter, key, value, after) => {
  const terms = switched(splitTerms(filter), key, value);
  expect(joinTerms(terms)).toBe(after);
  expect(chosenOf(splitTerms(after), key)).toBe(value);
});

test('labels of the panels come first, those of the filter and added ones follow, none twice', () => {
  const panels = [{ by: ['stream', 'label.team'] }, { by: ['label.env', 'label.team'] }] as Panel[];
  expect(labelsOf(panels, ['label.os eq "x"', 'label.env eq "y"'], ['jdk', 'os'])).toEqual([
    'team',
    'env',
    'os',
    'jdk',
  ]);
});
