// @vitest-environment jsdom
import { json, portal, show } from '../../../shared/testing/portal';

// What is tested comes after what stands in for the portal.

import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { moved, readRulesSearch } from '../model';
import type { Rule, RuleTrial } from './api';
import { condition, disagreeing, draftOf, isWide, lacks, NEW, verdict } from './model';
import { RuleEditor } from './RuleEditor';

beforeEach(() => portal.reset());
afterEach(cleanup);

const rule: Rule = {
  id: 4,
  version: 2,
  name: 'gateway',
  filter: '',
  pattern: 'Bad Gateway',
  category: 'Environment fault',
  comment: null,
  on: true,
  starter: false,
  explained: 7,
  last: '2026-11-20T03:00:00Z',
  trouble: null,
  changedBy: 'ada',
  changed: '2026-11-20T03:00:00Z',
};

const trial: RuleTrial = {
  runs: 5,
  failures: 40,
  fits: 6,
  would: 4,
  said: [
    { category: 'Product fault', origin: 'hand', ownRule: false, results: 1 },
    { category: 'Environment fault', origin: 'carried', ownRule: false, results: 1 },
  ],
  groups: [],
  allGroups: 0,
  stopped: null,
};

const categories = ['Product fault', 'Environment fault'].map((name, i) => ({
  id: i + 1,
  name,
  colour: 'slate',
  counts: true,
  retired: false,
}));

describe('what is told of a rule', () => {
  it('is its condition, whichever is written', () => {
    expect(condition(rule)).toBe('/Bad Gateway/');
    expect(condition({ filter: 'tag eq "a"', pattern: 'x' })).toBe('(tag eq "a") and /x/');
  });

  it.each([
    [{}, 'It fits 6 of 40 failures in 5 runs, and would explain 4 that nobody explained.'],
    [
      { would: 0 },
      'It fits 6 of 40 failures in 5 runs, and would explain none that is not explained.',
    ],
    [{ fits: 0 }, 'It fits none of 40 failures in 5 runs.'],
    [{ failures: 0, runs: 0 }, 'There are no failures yet to try it on.'],
  ])('is what a trial came to: %o', (some, words) => {
    expect(verdict({ ...trial, ...some })).toBe(words);
  });

  it('is that it catches nearly everything, and whom it contradicts', () => {
    expect(isWide(trial)).toBe(false);
    expect(isWide({ ...trial, fits: 32 })).toBe(true);
    expect(isWide({ ...trial, failures: 3, fits: 3 })).toBe(false);
    expect(disagreeing(trial, 'Environment fault')).toEqual([['Product fault', 1]]);
    expect(disagreeing(trial, '')).toEqual([]);
  });

  it('is what it lacks', () => {
    expect(lacks(NEW)).toMatch(/filter or a pattern/);
    expect(lacks({ ...NEW, pattern: 'x' })).toMatch(/category/);
    expect(lacks({ ...NEW, pattern: 'x', category: 'c' })).toMatch(/name/);
    expect(lacks(draftOf(rule))).toBeUndefined();
  });
});

it('moves one of a list by a step, and not over its ends', () => {
  expect(moved([1, 2, 3], 2, -1)).toEqual([2, 1, 3]);
  expect(moved([1, 2, 3], 2, 1)).toEqual([1, 3, 2]);
  expect(moved([1, 2, 3], 1, -1)).toEqual([1, 2, 3]);
  expect(moved([1, 2, 3], 3, 1)).toEqual([1, 2, 3]);
});

it('reads of an address only what a rule can be', () => {
  expect(readRulesSearch({ rule: 'new' })).toEqual({ rule: 'new' });
  expect(readRulesSearch({ rule: 4 })).toEqual({ rule: 4 });
  expect(readRulesSearch({ rule: -4 })).toEqual({});
  expect(readRulesSearch({ rule: '<b>' })).toEqual({});
});

describe('RuleEditor', () => {
  const open = (shown: Rule | undefined, onKept = vi.fn()) => {
    portal.answers['POST rules/trial'] = () => json(trial);
    portal.answers['POST filters/help'] = () =>
      json({ from: 0, to: 0, proposals: [], fault: null });
    show(
      <RuleEditor
        project="p"
        rule={shown}
        categories={categories}
        mayEdit
        onKept={onKept}
        onRemoved={vi.fn()}
      />,
    );
    return onKept;
  };
  const button = (name: string | RegExp) =>
    screen.getByRole('button', { name }) as HTMLButtonElement;
  const write = (label: RegExp, value: string) =>
    fireEvent.change(screen.getByLabelText(label), { target: { value } });

  it('tries what is written, and keeps it only when it is whole', async () => {
    const onKept = open(undefined);
    portal.answers['POST rules'] = () => json({ ...rule, id: 9, version: 1 });
    expect(button('Keep the rule').disabled).toBe(true);
    write(/pattern stands/, 'Bad Gateway');
    await screen.findByText(/It fits 6 of 40/);
    expect(portal.calls.find((call) => call.path === 'rules/trial')?.body).toEqual({
      filter: '',
      pattern: 'Bad Gateway',
      rule: null,
      runs: 20,
    });
    write(/^Name$/, 'gateway');
    expect(button('Keep the rule').disabled).toBe(true);
    write(/This is a/, 'Environment fault');
    expect(screen.getByText(/1 of them something else/).textContent).toContain('1 Product fault');
    fireEvent.click(button('Keep the rule'));
    await waitFor(() => expect(onKept).toHaveBeenCalled());
    expect(portal.calls.find((call) => call.path === 'rules')?.body).toEqual({
      name: 'gateway',
      filter: '',
      pattern: 'Bad Gateway',
      category: 'Environment fault',
      comment: null,
      on: true,
      runs: 20,
    });
  });

  it('says which version it saw, and tells when somebody was quicker', async () => {
    open(rule);
    portal.answers['PUT rules/4'] = () =>
      json({ detail: 'the rule is version 3 by now' }, { status: 412 });
    expect(button('Save').disabled).toBe(true);
    await screen.findByText(/It fits 6 of 40/);
    expect(portal.calls.find((call) => call.path === 'rules/trial')?.body).toEqual({
      filter: '',
      pattern: 'Bad Gateway',
      rule: 4,
      runs: 20,
    });
    write(/pattern stands/, 'Bad Gateway|504');
    fireEvent.click(screen.getByLabelText(/let it explain/));
    fireEvent.click(button('Save'));
    expect((await screen.findByRole('alert')).textContent).toContain('version 3 by now');
    expect(portal.calls.find((call) => call.method === 'PUT')?.body).toMatchObject({
      version: 2,
      rule: { pattern: 'Bad Gateway|504', runs: 0 },
    });
    expect(screen.getByLabelText<HTMLInputElement>(/pattern stands/).value).toBe('Bad Gateway|504');
  });

  it('keeps what was written while another rule is looked at', async () => {
    open({ ...rule, id: 77 });
    write(/^Name$/, 'half written');
    cleanup();
    open({ ...rule, id: 78 });
    expect(screen.getByLabelText<HTMLInputElement>(/^Name$/).value).toBe('gateway');
    cleanup();
    open({ ...rule, id: 77 });
    expect(screen.getByLabelText<HTMLInputElement>(/^Name$/).value).toBe('half written');
  });

  it('takes back only when asked twice', async () => {
    open(rule);
    portal.answers['DELETE rules/4/explained'] = () => json({ results: 7 });
    fireEvent.click(button('Take back'));
    expect(portal.changes().some((call) => call.method === 'DELETE')).toBe(false);
    fireEvent.click(button(/take back all it explained/));
    await screen.findByText('7 failures are unsorted again.');
  });
});
