// @vitest-environment jsdom

import { expect, test } from 'vitest';
import { json, portal } from '../../shared/testing/portal';
import type { Panel } from './api';
import { shared, sheetOf } from './together';

test('whatever number of panels is dealt out whole, to few requests of few panels', () => {
  for (let n = 1; n < 200; n++) {
    const all = Array.from({ length: n }, (_, i) => i);
    const dealt = shared(all);
    expect(dealt.flat().sort((a, b) => a - b)).toEqual(all);
    expect(dealt.every((some) => some.length > 0 && some.length <= 24)).toBe(true);
    expect(dealt.length).toBeLessThanOrEqual(Math.max(3, Math.ceil(n / 24)));
  }
});

test('each panel gets its own sheet, and one that cannot be shown says why for itself', async () => {
  portal.answers['POST boards/sheets'] = () => {
    const { panels } = (portal.calls.at(-1)?.body ?? {}) as { panels: Panel[] };
    return json(
      panels.map(({ title }) =>
        title === 'wrong'
          ? { sheet: null, problem: { status: 400, detail: 'no such filter' } }
          : { sheet: { columns: [], rows: [], left: Number(title) }, problem: null },
      ),
    );
  };
  const of = (title: string) => sheetOf('p', { title } as Panel, {});
  const all = await Promise.allSettled(['1', '2', 'wrong', '4', '5'].map(of));
  expect(
    all.map((one) => (one.status === 'fulfilled' ? one.value.left : one.reason.message)),
  ).toEqual([1, 2, 'no such filter', 4, 5]);
  expect(portal.calls).toHaveLength(3);
});
