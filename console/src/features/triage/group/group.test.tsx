// @vitest-environment jsdom
import { json, portal, show } from '../../../shared/testing/portal';

// What is tested comes after what stands in for the portal.

import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Group, GroupDetail, Suggestion } from '../../../shared/triage/api';
import { experience, reasons } from '../model';
import { GroupDecide } from './GroupDecide';
import { PastDecisions } from './PastDecisions';

beforeEach(() => portal.reset());
afterEach(cleanup);

const said = {
  decision: 12,
  category: 'Test data fault',
  origin: 'hand',
  comment: 'old table',
  by: 'ada',
};

const suggestion: Suggestion = {
  like: {
    group: 3,
    title: { text: 'no fare for #', beside: 'the same words', fromError: true },
    keyKind: 'words',
    sentence: 'the same words',
    template: 'no fare for #',
    likeness: 0.7,
    words: ['no', 'fare'],
    sameTests: 1,
    sameRuns: 0,
    said,
  },
  strength: 'strong',
  right: 3,
  of: 4,
};

const line = {
  group: 7,
  open: 4,
  results: 4,
  said: null,
  ends: null,
  endedBy: null,
  untilClosed: false,
  returned: false,
  disputed: false,
  assigned: null,
  tickets: [],
} as unknown as Group;

const open = (
  some: Partial<Group> = {},
  suggested: Suggestion | undefined = suggestion,
  marked: Group[] = [],
) => {
  portal.answers['GET projects'] = () =>
    json([{ key: 'p', name: 'Quay', role: 'owner', open: false }]);
  portal.answers['GET session'] = () => json({ login: 'lead' });
  portal.answers['POST groups/7/decision'] = () => json({ id: 13, group: 7, carried: 4 });
  show(
    <GroupDecide
      project="p"
      line={{ ...line, ...some }}
      categories={[
        { id: 1, name: 'Product fault', colour: 'claret', counts: true, retired: false },
      ]}
      marked={marked}
      onMark={vi.fn()}
      suggestion={suggested}
      onGroup={vi.fn()}
      onDecided={vi.fn()}
      onNext={undefined}
    />,
  );
};

const decided = () => portal.changes().map((call) => call.body);

describe('what is suggested of a group', () => {
  it('tells what speaks for it, and how often that was right', () => {
    expect(reasons(suggestion)).toBe('70 % the same words, 1 test in both, both say no, fare');
    expect(experience(suggestion)).toBe('right 3 of 4 times at such likeness');
    expect(experience({ ...suggestion, of: 0, right: 0 })).toBe(
      'strong likeness, not tried before',
    );
  });

  it('is accepted with one key', async () => {
    open();
    await screen.findByRole('button', { name: /Accept/ });
    fireEvent.keyDown(window, { key: 'y' });
    await waitFor(() => expect(decided()).toHaveLength(1));
    expect(decided()[0]).toEqual({
      category: null,
      comment: null,
      until: null,
      untilClosed: null,
      accepts: 12,
    });
  });

  it('is not offered of what is explained, and the key does nothing then', async () => {
    open({ open: 0, said });
    await screen.findByRole('button', { name: /Mended/ });
    expect(screen.queryByRole('button', { name: /Accept/ })).toBeNull();
    fireEvent.keyDown(window, { key: 'y' });
    expect(decided()).toEqual([]);
  });
});

describe('what is decided of marked groups', () => {
  it('is decided of each of them, and not of the one that is looked at', async () => {
    portal.answers['POST groups/8/decision'] = () => json({ id: 14, group: 8, carried: 1 });
    portal.answers['POST groups/9/decision'] = () =>
      json({ detail: 'group 9 was joined to group 8' }, { status: 412 });
    open(
      {},
      suggestion,
      [8, 9].map((group) => ({ ...line, group, open: 2 }) as Group),
    );
    await screen.findByText(/Explain 2 marked groups, 4 results/);
    expect(screen.queryByRole('button', { name: /Accept/ })).toBeNull();
    fireEvent.keyDown(window, { key: '1' });
    expect((await screen.findByRole('alert')).textContent).toMatch(/joined to group 8/i);
    expect(portal.changes().map((call) => call.path)).toEqual([
      'groups/8/decision',
      'groups/9/decision',
    ]);
  });
});

describe('an explanation', () => {
  it('can be made up to a day', async () => {
    open({}, undefined);
    const field = await screen.findByLabelText('until');
    fireEvent.change(field, { target: { value: '2099-12-05' } });
    fireEvent.keyDown(window, { key: '1' });
    await waitFor(() => expect(decided()).toHaveLength(1));
    expect(decided()[0]).toEqual({
      category: 'Product fault',
      comment: null,
      until: new Date(2099, 11, 5).toISOString(),
      untilClosed: false,
      accepts: null,
    });
  });

  it('holds until its tickets are closed where one is open', async () => {
    const ticket = {
      ...{ ticket: 4, key: 'LOG-4', title: 'No fare', state: 'done', open: false },
      ...{ link: null, checkedAt: null, trouble: null, mismatch: null },
    };
    open({ tickets: [ticket] }, undefined);
    await screen.findByLabelText('until');
    expect(screen.queryByLabelText('until its tickets are closed')).toBeNull();
    cleanup();
    open({ tickets: [ticket, { ...ticket, ticket: 5, open: true }] }, undefined);
    fireEvent.click(await screen.findByLabelText('until its tickets are closed'));
    fireEvent.keyDown(window, { key: '1' });
    await waitFor(() => expect(decided()).toHaveLength(1));
    expect(decided()[0]).toMatchObject({ until: null, untilClosed: true });
  });

  it('of a rule is not mended but taken back', async () => {
    open({ open: 0, said: { ...said, origin: 'rule', by: 'gateway' } });
    await screen.findByText(/by the rule “gateway”/);
    expect(screen.queryByRole('button', { name: /Mended/ })).toBeNull();
    expect(await screen.findByRole('button', { name: 'Undo' })).toBeTruthy();
  });
});

describe('what was decided of a group', () => {
  it('can be taken back where it stands, each by itself, after a second question', async () => {
    portal.answers['GET projects'] = () =>
      json([{ key: 'p', name: 'Quay', role: 'owner', open: false }]);
    portal.answers['GET session'] = () => json({ login: 'lead' });
    portal.answers['DELETE decisions/12'] = () => new Response(null, { status: 204 });
    const one = {
      ...{ said, run: null, at: '2026-11-20T04:00:00Z', scope: 'onwards', results: 2 },
      ...{ ends: null, endedBy: null, undoneAt: null, undoneBy: null, like: null },
    };
    const over = { undoneAt: '2026-11-21T04:00:00Z', undoneBy: 'bo' };
    const past = [one, { ...one, said: { ...said, decision: 11 }, ...over }];
    show(
      <PastDecisions
        project="p"
        past={past as unknown as GroupDetail['past']}
        categories={undefined}
      />,
    );
    fireEvent.click(await screen.findByRole('button', { name: 'Take back' }));
    expect(portal.changes()).toHaveLength(0);
    fireEvent.click(screen.getByRole('button', { name: 'In all runs that it was carried to' }));
    await waitFor(() => expect(portal.changes()).toHaveLength(1));
    expect(portal.changes()[0]).toMatchObject({ method: 'DELETE', path: 'decisions/12' });
  });
});
