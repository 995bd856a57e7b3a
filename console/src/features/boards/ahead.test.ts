// @vitest-environment jsdom

import { beforeEach, expect, test } from 'vitest';
import { json, lines, portal } from '../../shared/testing/portal';
import { sheetsAhead } from './ahead';
import type { Board, Panel } from './types';

const sheet = (left: number) => ({ columns: [], rows: [], left });
const board = {
  version: 3,
  panels: ['trend', 'words', 'wrong', 'worst', 'groups'].map((title) => ({ title })),
} as Board;

/** The second panel is of text, and the third cannot be shown. */
const answer = (version: number) =>
  lines(
    [5, 1, 4, 3].map((panel) => ({
      version,
      panel,
      ...(panel === 3
        ? { problem: { status: 400, detail: 'no such filter' } }
        : { sheet: sheet(panel) }),
    })),
  );

async function shown(ahead: ReturnType<typeof sheetsAhead>, panels: Panel[]) {
  const all = await Promise.allSettled(panels.map((panel) => ahead.of(board, panel)));
  return all.map((one) => (one.status === 'fulfilled' ? one.value.left : one.reason.message));
}

const posts = () => portal.changes().map((call) => call.path);

beforeEach(() => {
  portal.reset();
  portal.answers['POST boards/sheets'] = () => {
    const { panels } = (portal.calls.at(-1)?.body ?? {}) as { panels: Panel[] };
    return lines(panels.map((_, i) => ({ panel: i + 1, sheet: sheet(99) })));
  };
});

test('each panel gets the sheet of its place', async () => {
  portal.answers['GET boards/7/sheets'] = (query) => {
    expect([query.get('days'), query.get('filter')]).toEqual(['14', 'branch eq "main"']);
    return answer(3);
  };
  const ahead = sheetsAhead('p', 7, { days: 14, filter: 'branch eq "main"' });
  const [trend, , wrong, worst, groups] = board.panels as [Panel, Panel, Panel, Panel, Panel];
  expect(await shown(ahead, [groups, trend, wrong, worst])).toEqual([5, 1, 'no such filter', 4]);
  expect(posts()).toEqual([]);
  // Asked again: what was there before is not good enough.
  expect(await shown(ahead, [wrong, trend])).toEqual([99, 99]);
});

test('sheets of another version of the board are not taken for those of this one', async () => {
  portal.answers['GET boards/7/sheets'] = () => answer(4);
  expect(await shown(sheetsAhead('p', 7, {}), board.panels)).toEqual([99, 99, 99, 99, 99]);
});

test('what does not come along is asked for by the panels', async () => {
  portal.answers['GET boards/7/sheets'] = () => json({ detail: 'later' }, { status: 503 });
  expect(await shown(sheetsAhead('p', 7, {}), board.panels)).toEqual([99, 99, 99, 99, 99]);
  expect(posts()).toHaveLength(1);
});
