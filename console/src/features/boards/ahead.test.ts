// @vitest-environment jsdom

import { beforeEach, expect, test } from 'vitest';
import { json, portal } from '../../shared/testing/portal';
import { partsFor, sheetsAhead } from './ahead';
import type { Board, Panel } from './api';

const sheet = (left: number) => ({ columns: [], rows: [], left });
const board = {
  version: 3,
  panels: ['trend', 'words', 'wrong', 'worst', 'groups'].map((title) => ({ title })),
} as Board;

/** The second panel is of text, and the third cannot be shown. */
function answer(query: URLSearchParams, version: number) {
  const [part, parts] = [Number(query.get('part')), Number(query.get('parts'))];
  const sheets = [1, 3, 4, 5]
    .filter((panel) => (panel - 1) % parts === part - 1)
    .map((panel) =>
      panel === 3
        ? { panel, sheet: null, problem: { status: 400, detail: 'no such filter' } }
        : { panel, sheet: sheet(panel), problem: null },
    );
  return json({ version, sheets });
}

async function shown(ahead: ReturnType<typeof sheetsAhead>, panels: Panel[]) {
  const all = await Promise.allSettled(panels.map((panel) => ahead.of(board, panel)));
  return all.map((one) => (one.status === 'fulfilled' ? one.value.left : one.reason.message));
}

const posts = () => portal.changes().map((call) => call.path);

beforeEach(() => {
  portal.reset();
  portal.answers['POST boards/sheets'] = () => {
    const { panels } = (portal.calls.at(-1)?.body ?? {}) as { panels: Panel[] };
    return json(panels.map(() => ({ sheet: sheet(99), problem: null })));
  };
});

test.each([1, 2, 3, 5, 9])('each panel gets the sheet of its place, in %i parts', async (parts) => {
  portal.answers['GET boards/7/sheets'] = (query) => {
    expect([query.get('days'), query.get('filter')]).toEqual(['14', 'branch eq "main"']);
    return answer(query, 3);
  };
  const ahead = sheetsAhead('p', 7, { days: 14, filter: 'branch eq "main"' }, parts);
  const [trend, , wrong, worst, groups] = board.panels as [Panel, Panel, Panel, Panel, Panel];
  const all = [groups, trend, wrong, worst];
  expect(await shown(ahead, all)).toEqual([5, 1, 'no such filter', 4]);
  expect(posts()).toEqual([]);
  // Asked again: what was there before is not good enough.
  expect(await shown(ahead, [wrong, trend])).toEqual([99, 99]);
});

test('sheets of another version of the board are not taken for those of this one', async () => {
  portal.answers['GET boards/7/sheets'] = (query) => answer(query, 4);
  expect(await shown(sheetsAhead('p', 7, {}, 2), board.panels)).toEqual([99, 99, 99, 99, 99]);
});

test('a part that does not come is asked for by its panels', async () => {
  portal.answers['GET boards/7/sheets'] = (query) =>
    query.get('part') === '1' ? json({ detail: 'later' }, { status: 503 }) : answer(query, 3);
  const [trend, , , worst] = board.panels as [Panel, Panel, Panel, Panel, Panel];
  expect(await shown(sheetsAhead('p', 7, {}, 2), [trend, worst])).toEqual([99, 4]);
});

test('a browser with few cores asks for all at once, and none for more than three parts', () => {
  expect([1, 2, 4, 6, 8, 64].map(partsFor)).toEqual([1, 1, 2, 3, 3, 3]);
});
