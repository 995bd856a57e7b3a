import { api, problemOf, unwrap } from '../../shared/api/client';
import type { Sheet } from '../../shared/sheets/api';
import type { Panel, Switch } from './api';

/** Sheets that are asked for at the same moment go in so few requests, which run side by side. */
const REQUESTS = 3;
/** One request holds so many at most. */
const MOST = 24;

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
    for (const some of shared(asks)) {
      void ask(project, board, some);
    }
  }
}

/** Dealt out one by one, so that what takes long and stands together is not asked for together. */
export function shared<T>(all: T[]): T[][] {
  const requests = Math.max(Math.min(REQUESTS, all.length), Math.ceil(all.length / MOST));
  const dealt = Array.from({ length: requests }, (): T[] => []);
  all.forEach((one, i) => {
    dealt[i % requests]?.push(one);
  });
  return dealt;
}

async function ask(project: string, board: Switch, asks: Ask[]) {
  try {
    const sheets = await unwrap(
      api.POST('/api/v1/projects/{project}/boards/sheets', {
        params: { path: { project } },
        body: {
          panels: asks.map((one) => one.panel),
          filter: board.filter ?? null,
          days: board.days ?? null,
        },
      }),
    );
    asks.forEach((one, i) => {
      const its = sheets[i];
      if (its?.sheet) {
        one.answer(its.sheet);
      } else {
        one.fail(problemOf(its?.problem ?? {}));
      }
    });
  } catch (error) {
    for (const one of asks) one.fail(error);
  }
}
