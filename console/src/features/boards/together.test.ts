// @vitest-environment jsdom

import { beforeEach, expect, test } from 'vitest';
import { json, lines, portal } from '../../shared/testing/portal';
import { sheetOf } from './together';
import type { Panel } from './types';

const sheet = (left: number, text = '') => ({ columns: [], rows: [[{ text }]], left });

/** What the portal is asked for with one request. */
function asked(): string[] {
  const { panels } = (portal.calls.at(-1)?.body ?? {}) as { panels: Panel[] };
  return panels.map(({ title }) => title);
}

async function shown(titles: string[]) {
  const of = (title: string) => sheetOf('p', { title } as Panel, {});
  const all = await Promise.allSettled(titles.map(of));
  return all.map((one) => (one.status === 'fulfilled' ? one.value.left : one.reason.message));
}

beforeEach(() => portal.reset());

test('each panel gets its own sheet, in whatever order they come, and one that cannot be shown says why for itself', async () => {
  portal.answers['POST boards/sheets'] = () => {
    const all = asked().map((title, i) =>
      title === 'wrong'
        ? { panel: i + 1, problem: { status: 400, detail: 'no such filter' } }
        : { panel: i + 1, sheet: sheet(Number(title)) },
    );
    return lines(all.slice(0, 4).reverse());
  };
  expect(await shown(['1', '2', 'wrong', '4', '5'])).toEqual([
    1,
    2,
    'no such filter',
    4,
    'The portal told nothing of this panel.',
  ]);
  expect(portal.calls).toHaveLength(1);
});

test('however many panels there are, no request asks for more than 40, and each is asked for once', async () => {
  const all: string[] = [];
  portal.answers['POST boards/sheets'] = () => {
    const titles = asked();
    expect(titles.length).toBeLessThanOrEqual(40);
    all.push(...titles);
    return lines(titles.map((title, i) => ({ panel: i + 1, sheet: sheet(Number(title)) })));
  };
  const titles = Array.from({ length: 93 }, (_, i) => `${i}`);
  expect(await shown(titles)).toEqual(titles.map(Number));
  expect(all).toEqual(titles);
});

test('what is there is shown while others are still made, however the answer is cut', async () => {
  const text = [2, 1]
    .map((panel) => JSON.stringify({ panel, sheet: sheet(panel, 'Ægir – 潮') }))
    .join('\n');
  const bytes = new TextEncoder().encode(`${text}\n`);
  const firstEnd = bytes.indexOf(10) + 1;
  for (const size of [1, 2, 3, 7, 1000]) {
    let goOn = (): void => undefined;
    const held = new Promise<void>((on) => {
      goOn = on;
    });
    portal.answers['POST boards/sheets'] = () =>
      lines(
        new ReadableStream({
          async start(to) {
            for (const [from, end] of [
              [0, firstEnd],
              [firstEnd, bytes.length],
            ] as const) {
              for (let at = from; at < end; at += size) {
                to.enqueue(bytes.slice(at, Math.min(at + size, end)));
              }
              await held;
            }
            to.close();
          },
        }),
      );
    const [late, quick] = [1, 2].map((n) => sheetOf('p', { title: `${n}` } as Panel, {}));
    expect((await quick)?.rows[0]?.[0]?.text).toBe('Ægir – 潮');
    goOn();
    expect((await late)?.left).toBe(1);
  }
});

test('an answer that breaks off keeps what came, and says so of the rest', async () => {
  let wanted = 0;
  portal.answers['POST boards/sheets'] = () =>
    lines(
      new ReadableStream({
        pull(to) {
          wanted++;
          if (wanted > 1) {
            to.error(new TypeError('network'));
          } else {
            const line = JSON.stringify({ panel: 2, sheet: sheet(2) });
            to.enqueue(new TextEncoder().encode(`${line}\n{"panel": 1`));
          }
        },
      }),
    );
  const [broken, whole] = await shown(['1', '2']);
  expect(whole).toBe(2);
  expect(broken).toContain('broke off');
});

test('a portal that refuses is quoted by each', async () => {
  portal.answers['POST boards/sheets'] = () => json({ detail: 'later' }, { status: 503 });
  expect(await shown(['1', '2'])).toEqual(['later', 'later']);
});
