import { expect, test } from 'vitest';
import { brought, taken } from './file';
import { newPanel, nextTurn, readBoardSearch } from './model';

test('a board that was taken along is brought in as it was', () => {
  const board = { name: 'Nights', panels: [newPanel([])] };
  expect(brought(taken(board))).toEqual(board);
});

test.each(['', '[]', 'null', '{"name": "x"}', '{"name": 1, "panels": []}'])(
  'no board is in %s',
  (text) => {
    expect(() => brought(text)).toThrow(/the file is no/);
  },
);

test.each([
  [undefined, 3, 3],
  ['3', 3, 3],
  ['1,3,4', 3, 4],
  ['1,3,4', 4, 1],
  // The board that was looked at first takes no turn itself.
  ['1,4', 3, 1],
])('of %s after %d comes %d', (turns, board, next) => {
  expect(nextTurn(turns, board)).toBe(next);
});

test('an address says how boards take turns, or nothing of it counts', () => {
  expect(readBoardSearch({ wall: 30, turns: '1,2' })).toEqual({ wall: 30, turns: '1,2' });
  expect(readBoardSearch({ wall: '30', turns: 7 })).toEqual({ wall: 30, turns: '7' });
  expect(readBoardSearch({ wall: 1, turns: '1,2' })).toEqual({});
  expect(readBoardSearch({ turns: '1,2' })).toEqual({});
  expect(readBoardSearch({ wall: 30, turns: '1;2' })).toEqual({ wall: 30 });
});
