// @vitest-environment jsdom

import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { RouterProvider } from '@tanstack/react-router';
import {
  act,
  cleanup,
  configure,
  fireEvent,
  render,
  screen,
  waitFor,
  within,
} from '@testing-library/react';
import { afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Result } from '../features/runs/api';
import { counts, detail, result, run } from '../features/runs/testData';
import { attempt, failure, text } from '../shared/attempts/testData';
import { json, portal } from '../shared/testing/portal';
import { createAppRouter } from './router';

const SEEN_AT_ONCE = 600;

// A page is a script of its own, which takes its time to come on a busy machine.
configure({ asyncUtilTimeout: 20_000 });
vi.setConfig({ testTimeout: 60_000 });

beforeAll(() => {
  HTMLDialogElement.prototype.showModal = function () {
    this.open = true;
  };
  HTMLDialogElement.prototype.close = function () {
    this.open = false;
  };
  window.scrollTo = () => undefined;
  Element.prototype.scrollTo = () => undefined;
  Element.prototype.scrollIntoView = () => undefined;
  Range.prototype.getBoundingClientRect = () => new DOMRect();
  vi.stubGlobal('matchMedia', () => ({ matches: false }));
  vi.stubGlobal(
    'EventSource',
    class {
      addEventListener() {}
      close() {}
    },
  );
  // Without a layout nothing has a height, and a list would show none of its rows.
  for (const side of ['offsetHeight', 'offsetWidth', 'clientHeight', 'clientWidth'] as const) {
    Object.defineProperty(HTMLElement.prototype, side, { get: () => SEEN_AT_ONCE });
  }
});

/** The results of the run, in the order of the list, in pages of so many. */
function answer(all: Result[], page: number) {
  portal.answers['GET session'] = () => json({ login: 'ada', administrator: false, csrf: 'c' });
  portal.answers['GET projects'] = () =>
    json([{ key: 'p', name: 'Skerrow Line', open: false, role: 'owner' }]);
  portal.answers['GET /api/v1/projects'] = portal.answers['GET projects'];
  portal.answers['GET runs'] = (query) => json([run({ number: Number(query.get('number')) })]);
  portal.answers['GET runs/7/parts'] = () => json([]);
  portal.answers['GET bundles'] = () => json([]);
  portal.answers['GET runs/7/results'] = (query) => {
    const wanted = all.filter((one) => {
      const outcome = /outcome eq "(\w+)"/.exec(query.get('filter') ?? '')?.[1];
      return outcome === undefined || one.outcome === outcome;
    });
    const from = Number(query.get('cursor') ?? '0');
    const more = from + page < wanted.length;
    return json(wanted.slice(from, from + page), {
      headers: more ? { Link: `</api/v1/x?cursor=${from + page}>; rel="next"` } : {},
    });
  };
  for (const one of all) {
    portal.answers[`GET runs/7/results/${one.id}`] = () =>
      json(
        detail(one, {
          attempts: [
            attempt({
              outcome: one.outcome,
              failures:
                one.outcome === 'failed'
                  ? [failure({ message: text(`${one.name} is wrong`) })]
                  : [],
            }),
          ],
          before: [{ run: 11, result: '1-0', outcome: 'passed', retried: false }],
        }),
      );
  }
}

async function open(address: string) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const router = createAppRouter(client);
  await router.navigate({ href: address });
  await act(async () => {
    render(
      <QueryClientProvider client={client}>
        <RouterProvider router={router} />
      </QueryClientProvider>,
    );
  });
  return router;
}

beforeEach(() => portal.reset());
afterEach(cleanup);

const MANY = Array.from({ length: 250 }, (_, i) =>
  result({
    id: `1-${i}`,
    name: `test ${i}`,
    outcome: i < 3 ? 'failed' : 'passed',
    change: i === 2 ? 'new failing' : null,
  }),
);

const list = () => screen.findByRole('group', { name: 'List of results' });
const rows = async () => within(await list()).findAllByRole('link');

describe('the page of a run', () => {
  it('draws what is seen of a long list, and fetches the rest as somebody goes down', async () => {
    answer(MANY, 100);
    const router = await open('/p/runs/fares/nightly/12');
    const drawn = await rows();
    expect(drawn.length).toBeGreaterThan(5);
    expect(drawn.length).toBeLessThan(60);
    expect(drawn[0]?.textContent).toContain('test 0');
    expect(drawn[0]?.getAttribute('aria-current')).toBe('true');
    fireEvent.keyDown(document.body, { key: 'j' });
    await waitFor(() => expect(router.state.location.search).toEqual({ result: '1-1' }));
    // The next one that is new, from wherever somebody is.
    fireEvent.keyDown(document.body, { key: 'n' });
    await waitFor(() => expect(router.state.location.search).toEqual({ result: '1-2' }));
    expect(await screen.findByText('test 2 is wrong')).toBeTruthy();
    fireEvent.keyDown(document.body, { key: 'k' });
    await waitFor(() => expect(router.state.location.search).toEqual({ result: '1-1' }));
    // Arrows go through the list, but scroll the text of the result when somebody is in it.
    fireEvent.keyDown(screen.getByRole('region', { name: 'Result' }), { key: 'ArrowDown' });
    fireEvent.keyDown(await list(), { key: 'ArrowUp' });
    await waitFor(() => expect(router.state.location.search).toEqual({ result: '1-0' }));
    const asked = () => portal.calls.filter((call) => call.path === 'runs/7/results').length;
    expect(asked()).toBe(1);
    const box = await list();
    box.scrollTop = 4000;
    fireEvent.scroll(box);
    await waitFor(() => expect(asked()).toBe(2));
    expect((await within(box).findByText('test 74')).closest('a')).toBeTruthy();
  });

  it('says of a row where it leads, so that it opens in a tab of its own', async () => {
    answer(MANY.slice(0, 5), 100);
    await open('/p/runs/fares/nightly/12?filter=name+pr');
    const [, second] = await rows();
    expect(second?.getAttribute('href')).toBe('/p/runs/fares/nightly/12?filter=name+pr&result=1-1');
  });

  it('keeps what was chosen when the filter leaves it out', async () => {
    answer(MANY, 100);
    const router = await open('/p/runs/fares/nightly/12?result=1-9');
    await rows();
    fireEvent.click(screen.getByRole('button', { name: '1 failed' }));
    await waitFor(async () => expect(await rows()).toHaveLength(3));
    expect(router.state.location.search).toEqual({
      result: '1-9',
      filter: 'outcome eq "failed"',
    });
    expect(screen.getByRole('region', { name: 'Result' }).textContent).toContain('test 9');
  });

  it('sets another result beside the pinned one, and an earlier run too', async () => {
    answer(MANY, 100);
    const router = await open('/p/runs/fares/nightly/12?result=1-0');
    await screen.findByText('test 0 is wrong');
    fireEvent.keyDown(document.body, { key: 'p' });
    expect(await screen.findByText('What shall stand beside it?')).toBeTruthy();
    const pinned = () => screen.getByRole('region', { name: 'Pinned result' });
    fireEvent.keyDown(document.body, { key: 'j' });
    expect(await screen.findByText('test 1 is wrong')).toBeTruthy();
    expect(pinned().textContent).toContain('test 0 is wrong');
    const before = within(screen.getByRole('region', { name: 'Result' })).getByRole('link', {
      name: 'Run 11: passed',
    });
    fireEvent.click(before);
    await waitFor(() => expect(router.state.location.pathname).toBe('/p/runs/fares/nightly/11'));
    expect(router.state.location.search).toEqual({
      result: '1-0',
      pin: 'fares/nightly/12:1-0:1',
    });
    expect((await screen.findByRole('region', { name: 'Pinned result' })).textContent).toContain(
      'pinned from fares/nightly #12',
    );
    fireEvent.keyDown(document.body, { key: 'p' });
    await waitFor(() => expect(screen.queryByRole('region', { name: 'Pinned result' })).toBeNull());
  });

  it('pins one try, and shows another one beside it', async () => {
    const [first] = MANY as [Result];
    answer([{ ...first, attempts: 2 }], 100);
    portal.answers['GET runs/7/results/1-0'] = () =>
      json(
        detail(first, {
          attempts: [
            attempt({ failures: [failure({ message: text('gangway stuck') })] }),
            attempt({ outcome: 'passed', stdout: text('all well') }),
          ],
        }),
      );
    const router = await open('/p/runs/fares/nightly/12?result=1-0');
    await screen.findByText('gangway stuck');
    fireEvent.click(screen.getByRole('button', { name: 'Pin' }));
    expect(await screen.findByText('all well')).toBeTruthy();
    expect(router.state.location.search).toMatchObject({ attempt: 2 });
    expect(screen.getByText('gangway stuck')).toBeTruthy();
  });

  it('finds what is typed at once, and tells the address after a pause', async () => {
    answer(MANY.slice(0, 2), 100);
    const router = await open('/p/runs/fares/nightly/12?result=1-0&attempt=99');
    expect(await screen.findByText('test 0 is wrong')).toBeTruthy();
    const field = screen.getByLabelText('Find in the result') as HTMLInputElement;
    for (const typed of ['w', 'wr', 'wrong']) fireEvent.change(field, { target: { value: typed } });
    expect(field.value).toBe('wrong');
    expect(await screen.findByText('1 of 1')).toBeTruthy();
    await waitFor(() => expect(router.state.location.search).toMatchObject({ find: 'wrong' }));
    fireEvent.change(field, { target: { value: 'nowhere' } });
    expect(await screen.findByText('not found in what is shown')).toBeTruthy();
  });

  it('tells in which steps a result differs from the pinned one', async () => {
    answer(MANY.slice(0, 2), 100);
    const went = (words: string, outcome: string) => ({
      text: words,
      outcome,
      status: null,
      durationMs: 4,
    });
    portal.answers['GET runs/7/results/1-1/steps'] = (query) =>
      json(
        query.get('otherResult') === '1-0' && query.get('otherRun') === '7'
          ? [
              { depth: 0, before: went('moors', 'passed'), now: went('moors', 'passed') },
              {
                depth: 0,
                before: went('pays', 'passed'),
                now: went('pays', 'failed'),
                differs: true,
              },
              { depth: 0, before: null, now: went('waits', 'skipped'), differs: true },
            ].map((row) => ({ differs: false, ...row }))
          : [],
      );
    await open('/p/runs/fares/nightly/12?result=1-1&pin=fares/nightly/12:1-0:1');
    const steps = await screen.findByRole('region', { name: 'Steps beside each other' });
    expect(steps.textContent).toContain('2 of 3 differ');
    expect(within(steps).queryByText('moors')).toBeNull();
    expect(within(steps).getByText('not there')).toBeTruthy();
    fireEvent.click(within(steps).getByLabelText('all of them'));
    expect(within(steps).getByText('moors')).toBeTruthy();
  });

  it('says so when the pinned result is gone', async () => {
    answer(MANY.slice(0, 2), 100);
    await open('/p/runs/fares/nightly/12?result=1-0&pin=fares/nightly/12:9-9:1');
    expect(await screen.findByText('Nothing at runs/7/results/9-9', { exact: false })).toBeTruthy();
    expect(screen.getByRole('region', { name: 'Result' }).textContent).toContain('test 0');
  });

  it('goes through suites level by level, each when it is opened', async () => {
    answer(MANY.slice(0, 2), 100);
    portal.answers['GET runs/7/suites'] = (query) =>
      json(
        query.get('parent') === null
          ? [
              { id: 1, name: 'fares', counts: counts({ failed: 1 }), hasSuites: true },
              { id: 2, name: 'sailings', counts: counts({ passed: 4 }), hasSuites: false },
            ]
          : [{ id: 3, name: 'rounding', counts: counts({ failed: 1 }), hasSuites: false }],
      );
    await open('/p/runs/fares/nightly/12?view=suites');
    const tree = await screen.findByRole('group', { name: 'Suites' });
    expect(await within(tree).findByText('rounding')).toBeTruthy();
    const sailings = within(tree).getByText('sailings').closest('button');
    expect(sailings?.getAttribute('aria-expanded')).toBe('false');
    const opened = () => portal.calls.filter((call) => call.path === 'runs/7/suites').length;
    const before = opened();
    fireEvent.click(sailings as HTMLElement);
    expect(sailings?.getAttribute('aria-expanded')).toBe('true');
    // It has no suites inside it, so none are asked for.
    expect(opened()).toBe(before);
  });

  it('says what went wrong, and tries again', async () => {
    answer(MANY, 100);
    const good = portal.answers['GET runs/7/results'];
    portal.answers['GET runs/7/results'] = () =>
      json({ detail: 'there is too much to look through' }, { status: 422 });
    await open('/p/runs/fares/nightly/12');
    expect((await screen.findByRole('alert')).textContent).toContain('too much to look through');
    if (good) portal.answers['GET runs/7/results'] = good;
    fireEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect((await rows())[0]?.textContent).toContain('test 0');
  });

  it('deletes a run only when its number was typed', async () => {
    answer(MANY.slice(0, 2), 100);
    portal.answers['DELETE runs/7'] = () => new Response(null, { status: 204 });
    portal.answers['GET streams'] = () => json([]);
    const router = await open('/p/runs/fares/nightly/12');
    await rows();
    fireEvent.click(await screen.findByRole('button', { name: 'delete' }));
    const button = screen.getByRole('button', { name: 'Delete for good', hidden: true });
    const field = screen.getByRole('textbox', { hidden: true, name: /type #12/ });
    fireEvent.change(field, { target: { value: '#1' } });
    expect((button as HTMLButtonElement).disabled).toBe(true);
    fireEvent.change(field, { target: { value: '#12' } });
    fireEvent.click(button);
    await waitFor(() => expect(router.state.location.pathname).toBe('/p/runs'));
    expect(portal.changes().map((call) => [call.method, call.path])).toEqual([
      ['DELETE', 'runs/7'],
    ]);
  });
});
