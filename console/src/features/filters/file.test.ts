import { describe, expect, it } from 'vitest';
import type { SavedFilter } from '../../shared/filter/api';
import { brought, taken } from './file';

const filter = (name: string, text: string): SavedFilter => ({
  id: 1,
  version: 1,
  mine: false,
  name,
  of: 'run',
  filter: text,
  reference: '',
  changedAt: '2026-11-20T04:00:00Z',
  changedBy: 'nadia',
});

describe('a file of saved filters', () => {
  it('has those first that others name', () => {
    const file = taken([
      filter('A', 'saved eq "B" and saved eq "C"'),
      filter('B', 'not (saved eq "C")'),
      filter('C', 'failed gt 0'),
    ]);
    expect(brought(file).map((one) => one.name)).toEqual(['C', 'B', 'A']);
    expect(brought(file)[0]).toEqual({ name: 'C', of: 'run', filter: 'failed gt 0' });
  });

  it('is ordered, also when two name each other', () => {
    const file = taken([filter('A', 'saved eq "B"'), filter('B', 'saved eq "A"')]);
    expect(brought(file)).toHaveLength(2);
  });

  it.each(['', '{}', '[1]', '[null]', '[{"name": "A", "of": "run"}]'])('is not %s', (text) => {
    expect(() => brought(text)).toThrow(/the file is no/);
  });
});
