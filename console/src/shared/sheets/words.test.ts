import { expect, it } from 'vitest';
import { manyRows } from './words';

it.each([
  [0, 0, '0 rows in all'],
  [1, 0, '1 row in all'],
  [12, 30, '42 rows in all'],
  [50, -1, 'more than 50 rows'],
])('of %i rows that are there and %i that are left it says “%s”', (there, left, said) => {
  expect(manyRows({ rows: Array.from({ length: there }, () => []), left })).toBe(said);
});
