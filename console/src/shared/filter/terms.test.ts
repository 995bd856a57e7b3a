import { describe, expect, it } from 'vitest';
import { joinTerms, quote, splitTerms } from './terms';

describe('the terms of a filter', () => {
  it.each([
    ['', []],
    ['name pr', ['name pr']],
    ['name pr and not (tag pr)', ['name pr', 'not (tag pr)']],
    ['name pr AND(tag pr)', ['name pr', '(tag pr)']],
    ['name eq "a and b" and tag pr', ['name eq "a and b"', 'tag pr']],
    ['name eq "\\" and " and tag pr', ['name eq "\\" and "', 'tag pr']],
    [
      'results[name pr and tag pr] and open eq true',
      ['results[name pr and tag pr]', 'open eq true'],
    ],
    ['name pr and (tag pr or file pr)', ['name pr', '(tag pr or file pr)']],
    ['name pr or tag pr', ['(name pr or tag pr)']],
    ['name pr and tag pr or file pr', ['(name pr and tag pr or file pr)']],
    ['band pr and origin pr', ['band pr', 'origin pr']],
  ])('%s', (filter, terms) => {
    expect(splitTerms(filter)).toEqual(terms);
    expect(splitTerms(joinTerms(terms))).toEqual(terms);
  });

  it('quotes what somebody typed', () => {
    expect(quote('a "b" \\ c')).toBe('"a \\"b\\" \\\\ c"');
  });
});
