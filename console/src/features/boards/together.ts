import { api, unwrap } from '../../shared/api/client';
import type { Sheet } from '../../shared/sheets/api';
import { byPlace, sheetIn } from './lines';
import type { Panel, Switch } from './types';

/** One request holds so many at most. */
const MOST = 40;

interface Ask {
  panel: Panel;
  answer: (sheet: Sheet) => void;
  fail: (error: unknown) => void;
}

const waiting = new Map<string, { project: string; board: Switch; asks: Ask[] }>();

/** What a panel shows; asked for together with what other panels of the board ask for just now. */
export function sheetOf(project: string, panel: Panel, board: Switch): Promise<Sheet> {
  return new Promise((answer, fail) => {
    if (waiting.size === 0) {
      // Whoever asks next, asks before what is drawn then takes its time.
      queueMicrotask(send);
    }
    const key = JSON.stringify([project, board.days ?? null, board.filter ?? null]);
    const group = waiting.get(key) ?? { project, board, asks: [] };
    waiting.set(key, group);
    group.asks.push({ panel, answer, fail });
  });
}

function send() {
  const groups = [...waiting.values()];
  waiting.clear();
  for (const { project, board, asks } of groups) {
    for (let from = 0; from < asks.length; from += MOST) {
      void ask(project, board, asks.slice(from, from + MOST));
    }
  }
}

async function ask(project: string, board: Switch, asks: Ask[]) {
  const line = byPlace(
    unwrap(
      api.POST('/api/v1/projects/{project}/boards/sheets', {
        params: { path: { project } },
        body: {
          panels: asks.map((one) => one.panel),
          filter: board.filter ?? null,
          days: board.days ?? null,
        },
        parseAs: 'stream',
      }),
    ),
  );
  await Promise.all(
    asks.map(async (one, i) => {
      try {
        one.answer(sheetIn(await line(i + 1)));
      } catch (error) {
        one.fail(error);
      }
    }),
  );
}
