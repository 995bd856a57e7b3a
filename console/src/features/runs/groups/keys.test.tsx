// @vitest-environment jsdom

import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import { json, portal, show } from '../../../shared/testing/portal';
import type { GroupInRun } from '../../../shared/triage/api';
import { run } from '../testData';
import { GroupList } from './GroupList';

afterEach(() => {
  cleanup();
  portal.reset();
});

function group(number: number, first: string): Partial<GroupInRun> {
  return {
    group: number,
    title: { text: `cause ${number}`, beside: '', fromError: true },
    keyKind: 'frame',
    sentence: 'thrown',
    template: 'cause',
    results: 2,
    tests: 2,
    open: 2,
    kept: 0,
    first,
    test: 'T',
    said: null,
    returned: false,
    seen: { stream: 's', run: 1, at: '2026-11-01T01:30:00Z', here: true },
    tickets: [],
  };
}

vi.setConfig({ testTimeout: 60_000 });

/** Of somebody who is quicker than the portal, and than the address of the page. */
it('a key means the group that was chosen last, whatever is still on its way', async () => {
  portal.answers['GET /api/v1/projects'] = () => json([{ key: 'p', name: 'P', role: 'owner' }]);
  portal.answers['GET projects'] = portal.answers['GET /api/v1/projects'];
  portal.answers['GET categories'] = () =>
    json(['Product fault', 'Test fault'].map((name, i) => ({ id: i, name, archived: false })));
  portal.answers['GET runs/7/groups'] = () =>
    json({
      groups: [group(1, '1-1'), group(2, '1-2')],
      open: 4,
      results: 4,
      total: 2,
      notCompared: 0,
    });
  let answer: (response: Response) => void = () => undefined;
  portal.answers['POST runs/7/results/1-1/decision'] = () =>
    new Promise((later) => {
      answer = later;
    });
  portal.answers['POST runs/7/results/1-2/decision'] = () => json({ id: 2 });
  const nothing = () => undefined;
  const selects: number[] = [];
  show(
    <GroupList
      project="p"
      run={run({ id: 7, explained: true })}
      selected={undefined}
      onSelect={(one) => selects.push(one.group)}
      onResults={nothing}
      onFirst={nothing}
    />,
  );
  await screen.findByRole('button', { name: /Product fault/ });
  fireEvent.keyDown(document.body, { key: '1' });
  fireEvent.keyDown(document.body, { key: 'n' });
  fireEvent.keyDown(document.body, { key: '2' });
  const decided = () =>
    portal.changes().map(({ path, body }) => [path, (body as { category: string }).category]);
  await waitFor(() =>
    expect(decided()).toEqual([
      ['runs/7/results/1-1/decision', 'Product fault'],
      ['runs/7/results/1-2/decision', 'Test fault'],
    ]),
  );
  // The first answer comes late: nobody is brought back to the first group by it.
  answer(json({ id: 1 }));
  await waitFor(() => expect(selects).toContain(2));
  fireEvent.keyDown(document.body, { key: '1' });
  await waitFor(() =>
    expect(decided()[2]).toEqual(['runs/7/results/1-2/decision', 'Product fault']),
  );
});
