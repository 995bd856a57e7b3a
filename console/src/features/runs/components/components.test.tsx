// @vitest-environment jsdom

import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Attachment, Counts, Part, Run, Step } from '../api';
import { partNames, type RunSearch, spanOf } from '../model';
import type { Quick } from '../quick';
import { attempt, counts, failure, NO_CHANGES, part, point, result, text } from '../testData';
import { AttachmentList } from './AttachmentList';
import { AttemptView } from './AttemptView';
import { ChangesLine } from './ChangesLine';
import { CountsLine } from './CountsLine';
import { FilterBar } from './FilterBar';
import { Lane } from './Lane';
import { PartTable } from './PartTable';
import { ResultRow } from './ResultRow';
import { StepList } from './StepList';
import { TraceView } from './TraceView';
import { Trend } from './Trend';

afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

describe('TraceView', () => {
  const blocks = [
    { kind: 'text' as const, lines: ['AssertionError: 4 is not 5'] },
    { kind: 'framework' as const, lines: ['at junit.A', 'at junit.B'] },
    { kind: 'own' as const, lines: ['at org.skerrow.fares.Rounding.up(Rounding.java:12)'] },
  ];

  it('folds the frames of frameworks until they are asked for', () => {
    render(<TraceView blocks={blocks} />);
    expect(screen.queryByText(/junit\.A/)).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: '… 2 framework frames' }));
    expect(screen.getByText(/junit\.A/)).toBeTruthy();
  });

  it('raises own frames', () => {
    render(<TraceView blocks={blocks} />);
    const own = screen.getByText(/Rounding\.up/);
    const said = screen.getByText(/AssertionError/);
    expect(own.className).not.toBe(said.className);
    expect(own.className).toContain('font-semibold');
  });

  it('can be scrolled by the keyboard', () => {
    render(<TraceView blocks={blocks} />);
    expect(screen.getByRole('group', { name: 'Trace' }).tabIndex).toBe(0);
  });
});

describe('AttemptView', () => {
  const show = (some: Parameters<typeof attempt>[0]) => {
    const onWhole = vi.fn();
    render(
      <AttemptView attempt={attempt(some)} href={(one) => `/a/${one.id}`} onWhole={onWhole} />,
    );
    return onWhole;
  };

  it('puts expected and actual side by side when the message has them', () => {
    show({
      failures: [
        failure({
          type: 'AssertionFailedError',
          message: text('expected: <4> but was: <5>'),
          comparison: { expected: '4', actual: '5' },
        }),
      ],
    });
    expect(screen.getByText('Expected').nextElementSibling?.textContent).toBe('4');
    expect(screen.getByText('Actual').nextElementSibling?.textContent).toBe('5');
    expect(screen.getByText('AssertionFailedError')).toBeTruthy();
  });

  it('numbers the messages when there are several', () => {
    show({ failures: [failure({ message: text('one') }), failure({ message: text('two') })] });
    expect(screen.getByRole('heading', { name: 'Message 1' })).toBeTruthy();
    expect(screen.getByRole('heading', { name: 'Message 2' })).toBeTruthy();
  });

  it('has no heading for a message that there is not', () => {
    const frames = [{ kind: 'text' as const, lines: ['Failed test'] }];
    show({ failures: [failure({ trace: text('Failed test'), traceBlocks: frames })] });
    expect(screen.queryByRole('heading', { name: 'Message' })).toBeNull();
    expect(screen.getByRole('heading', { name: 'Trace' })).toBeTruthy();
  });

  it('says how much of a long text is missing, and fetches it when asked', () => {
    const onWhole = show({ stdout: { text: 'x'.repeat(1000), length: 5_000_000, cut: true } });
    expect(screen.getByText(/The first 1,000 of 5,000,000 characters/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Show all of it' }));
    expect(onWhole).toHaveBeenCalledOnce();
  });

  it('says so when there is nothing to tell', () => {
    show({ outcome: 'passed', durationMs: 1500 });
    expect(screen.getByText(/nothing more of this: it took 1\.5 s/)).toBeTruthy();
  });

  it('keeps markup in messages as text', () => {
    show({ failures: [failure({ message: text('<script>alert(1)</script>') })] });
    expect(document.querySelector('script')).toBeNull();
    expect(screen.getByRole('group', { name: 'Message' }).textContent).toBe(
      '<script>alert(1)</script>',
    );
  });
});

describe('CountsLine', () => {
  it('reads as numbers with words, failing first, without what there is none of', () => {
    const { container } = render(
      <CountsLine counts={counts({ passed: 1200, failed: 3, notReached: 2 })} />,
    );
    expect(container.textContent).toBe('3failed2not reached1,200passed');
  });

  it('says that there are no tests', () => {
    const { container } = render(<CountsLine counts={counts({})} />);
    expect(container.textContent).toBe('no tests');
  });
});

describe('ChangesLine', () => {
  it.each([
    [{ ...NO_CHANGES }, 'nothing changed'],
    [{ ...NO_CHANGES, newFailing: 2, fixed: 1 }, '2 new failing, 1 fixed'],
    [
      { newFailing: 1, stillFailing: 2, fixed: 3, passedOnRetry: 4, added: 5, gone: 6 },
      '1 new failing, 2 still failing, 3 fixed, 4 passed on retry, 5 added, 6 gone',
    ],
  ])('%j', (changes, words) => {
    const { container } = render(<ChangesLine changes={changes} />);
    expect(container.textContent).toBe(words);
  });
});

describe('ResultRow', () => {
  it('shows a class by its short name, and its full one on hover', () => {
    render(<ResultRow result={result({ parameters: '[2]' })} withSuite />);
    expect(screen.getByText('FareTest').title).toBe('org.skerrow.fares.FareTest');
    expect(screen.getByTitle('roundsUp[2]').textContent).toBe('roundsUp[2]');
  });

  it('marks what is new, and what was tried several times', () => {
    render(
      <ResultRow
        result={result({ outcome: 'failed', change: 'new failing', attempts: 3 })}
        withSuite={false}
      />,
    );
    expect(screen.getByText('new')).toBeTruthy();
    expect(screen.getByTitle('3 attempts')).toBeTruthy();
    expect(screen.queryByText('FareTest')).toBeNull();
  });
});

describe('Trend', () => {
  it('needs two runs', () => {
    render(<Trend points={[point(1, { passed: 1 })]} />);
    expect(screen.getByText('A trend needs two runs.')).toBeTruthy();
  });

  it('tells in words what it draws', () => {
    render(
      <Trend
        points={[
          point(1, { passed: 8, failed: 2 }),
          point(2, { passed: 20, failed: 3, errored: 2 }),
          point(9, { passed: 24, failed: 1 }),
        ]}
      />,
    );
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe(
      'From run 1 to 9: up to 25 tests, at most 5 failing, 1 failing now',
    );
  });

  it('places runs by their number, so that a gap shows', () => {
    const { container } = render(
      <Trend
        points={[point(1, { passed: 4 }), point(2, { passed: 4 }), point(11, { passed: 4 })]}
      />,
    );
    expect(container.querySelectorAll('path')[1]?.getAttribute('d')).toBe('M0 8L64 8L640 8');
  });
});

describe('PartTable', () => {
  it('names the file of each problem and folds the environment', () => {
    render(
      <PartTable
        project="skerrow-line"
        run={{} as Run}
        parts={[
          part({
            name: 'shard 2',
            buildUrl: 'https://ci.example/7',
            environment: { 'java.version': '17.0.15' },
            files: [
              { name: 'TEST-a.xml', format: 'junit-xml', problems: ['time “NaN” is no duration'] },
              { name: 'TEST-b.xml', format: 'junit-xml', problems: [] },
            ],
          }),
        ]}
      />,
    );
    const row = screen.getAllByRole('row')[1];
    expect(row?.textContent).toContain('2 filesTEST-a.xml: time “NaN” is no duration');
    const link = screen.getByRole('link', { name: 'shard 2' });
    expect(link.getAttribute('rel')).toContain('noopener');
    expect(screen.getByText('1 property').closest('details')?.open).toBe(false);
  });
});

describe('Lane', () => {
  it('places a part on the clock of the run', () => {
    const at = (minute: number) => `2026-11-20T09:0${minute}:00Z`;
    const parts = [
      part({ startedAt: at(0), endedAt: at(4) }),
      part({ startedAt: at(2), endedAt: at(3), counts: counts({ failed: 1 }) }),
    ];
    const { container } = render(<Lane part={parts[1] as Part} span={spanOf(parts)} />);
    const bar = container.querySelector<HTMLElement>('[style]');
    expect(bar?.style.left).toBe('50%');
    expect(bar?.style.width).toBe('25%');
    expect(bar?.className).toContain('bg-failed');
    expect(partNames([...parts, ...parts])).toBe('part 1, part 1, part 1 and 1 more');
  });
});

describe('StepList', () => {
  const step = (some: Partial<Step>): Step => ({
    keyword: null,
    text: 'a step',
    outcome: 'passed',
    status: null,
    durationMs: null,
    message: null,
    argument: null,
    table: [],
    logs: [],
    attachments: [],
    steps: [],
    ...some,
  });
  const image: Attachment = {
    id: '1-2-0-0',
    name: 'quay.png',
    mediaType: 'image/png',
    kind: 'image',
    bytes: 812,
    kept: true,
  };

  it('shows words, tables, inner steps and what a step left behind', () => {
    render(
      <StepList
        steps={[
          step({ keyword: 'Given', text: 'these fares', table: [['port'], ['Holm']] }),
          step({ text: 'outer', steps: [step({ text: 'inner', outcome: 'failed' })] }),
          step({ text: 'looks', attachments: [0, 7], status: 'undefined', outcome: 'errored' }),
        ]}
        attachments={[image]}
        href={(one) => `/a/${one.id}`}
      />,
    );
    expect(screen.getByRole('columnheader').textContent).toBe('port');
    expect(screen.getByText('inner').closest('li')?.parentElement?.closest('li')).toBeTruthy();
    expect(screen.getByRole('img', { name: 'quay.png' }).getAttribute('src')).toBe('/a/1-2-0-0');
    expect(screen.getByText('undefined')).toBeTruthy();
  });

  it('says of a file that was not sent, and never links to it', () => {
    render(
      <AttachmentList
        attachments={[{ ...image, kept: false, kind: 'other', bytes: 0 }]}
        href={() => '/nowhere'}
      />,
    );
    expect(screen.getByText('named, not sent')).toBeTruthy();
    expect(screen.queryByRole('link')).toBeNull();
  });
});

/** A bar whose quick filters are told to `onQuick` and its views to `onView`. */
function filterBar(all: Counts, filter: string, view?: RunSearch['view']) {
  const onQuick = vi.fn<(next: Partial<Quick>) => void>();
  const onView = vi.fn<(view: RunSearch['view']) => void>();
  const bar = (wanted: string, now: RunSearch['view']) => (
    <QueryClientProvider client={new QueryClient()}>
      <FilterBar
        project="p"
        counts={all}
        filter={wanted}
        view={now}
        onQuick={onQuick}
        onFilter={vi.fn()}
        onView={onView}
      />
    </QueryClientProvider>
  );
  const { rerender } = render(bar(filter, view));
  const again = (wanted: string, now?: RunSearch['view']) => rerender(bar(wanted, now));
  return { onQuick, onView, again };
}

describe('FilterBar', () => {
  const bar = (filter: string) => filterBar(counts({ passed: 5, failed: 2, skipped: 1 }), filter);
  const field = () => screen.getByRole('searchbox') as HTMLInputElement;
  const type = (value: string) => fireEvent.change(field(), { target: { value } });

  it('offers only outcomes that there are, and toggles them', () => {
    const { onQuick } = bar('outcome eq "failed"');
    const names = screen.getAllByRole('button').map((button) => button.textContent?.trim());
    expect(names).toEqual(['Filter', 'Suites', '2 failed', '1 skipped', '5 passed']);
    expect(screen.getByText('2 failed').getAttribute('aria-pressed')).toBe('true');
    fireEvent.click(screen.getByText('1 skipped'));
    expect(onQuick).toHaveBeenLastCalledWith({ outcomes: ['failed', 'skipped'], setUps: false });
    fireEvent.click(screen.getByText('2 failed'));
    expect(onQuick).toHaveBeenLastCalledWith({ outcomes: [], setUps: false });
  });

  it('shows the filter when there is more to it than quick ones', () => {
    const { again } = bar('outcome eq "failed"');
    expect(screen.queryByLabelText('Filter of results')).toBeNull();
    again('outcome eq "failed" and duration gt 2');
    expect((screen.getByLabelText('Filter of results') as HTMLTextAreaElement).value).toBe(
      'outcome eq "failed" and duration gt 2',
    );
  });

  it('waits for a pause in the typing', () => {
    vi.useFakeTimers();
    const { onQuick } = bar('');
    type('f');
    type('far');
    act(() => vi.advanceTimersByTime(200));
    expect(onQuick).not.toHaveBeenCalled();
    act(() => vi.advanceTimersByTime(100));
    expect(onQuick).toHaveBeenCalledExactlyOnceWith({ text: 'far' });
  });

  it('keeps what is typed while the answer to the text before is on its way', () => {
    vi.useFakeTimers();
    const { again } = bar('');
    type('far');
    act(() => vi.advanceTimersByTime(300));
    type('fares');
    again('text co "far"');
    expect(field().value).toBe('fares');
  });

  it('follows a text that a link has set or cleared', () => {
    vi.useFakeTimers();
    const { onQuick, again } = bar('');
    type('far');
    act(() => vi.advanceTimersByTime(300));
    again('text co "far"');
    onQuick.mockClear();
    again('');
    act(() => vi.advanceTimersByTime(1000));
    expect(field().value).toBe('');
    expect(onQuick).not.toHaveBeenCalled();
  });

  it('takes the slash as the way into the field, but not from another field', () => {
    bar('');
    fireEvent.keyDown(document.body, { key: '/' });
    expect(document.activeElement).toBe(field());
    field().blur();
    const other = document.createElement('input');
    document.body.append(other);
    fireEvent.keyDown(other, { key: '/' });
    expect(document.activeElement).not.toBe(field());
    other.remove();
  });

  it('shows the change that is filtered for, and lets it go', () => {
    const { onQuick } = bar('change eq "new failing"');
    const chip = screen.getByRole('button', { name: /new failing/ });
    expect(within(chip).getByLabelText('Show all again')).toBeTruthy();
    fireEvent.click(chip);
    expect(onQuick).toHaveBeenCalledWith({ change: undefined });
  });

  it('switches between list and suites', () => {
    const { onView, again } = bar('');
    fireEvent.click(screen.getByRole('button', { name: 'Suites' }));
    expect(onView).toHaveBeenLastCalledWith('suites');
    again('', 'suites');
    fireEvent.click(screen.getByRole('button', { name: 'List' }));
    expect(onView).toHaveBeenLastCalledWith(undefined);
  });
});

describe('set-ups that failed', () => {
  it('stand beside the tests, not among them', () => {
    render(<CountsLine counts={counts({ setUps: 2, passed: 5, notReached: 3 })} />);
    expect(screen.getByText('2 set-ups')).toBeTruthy();
    expect(screen.queryByText('errored')).toBeNull();
  });

  it('are a filter of their own', () => {
    const all = counts({ setUps: 1, errored: 1, passed: 5 });
    const { onQuick, again } = filterBar(all, '');
    fireEvent.click(screen.getByRole('button', { name: '1 set-up failed' }));
    expect(onQuick).toHaveBeenLastCalledWith({ setUps: true, outcomes: [] });

    again('setUp eq true');
    expect(
      screen.getByRole('button', { name: '1 set-up failed' }).getAttribute('aria-pressed'),
    ).toBe('true');
    fireEvent.click(screen.getByRole('button', { name: '1 errored' }));
    expect(onQuick).toHaveBeenLastCalledWith({ setUps: false, outcomes: ['errored'] });
  });
});

describe('an overruled result', () => {
  it('says so in the list, with what was reported', () => {
    render(<ResultRow result={result({ outcome: 'skipped', reported: 'failed' })} withSuite />);
    expect(screen.getByTitle('Reported as failed').textContent).toBe('overruled');
  });

  it('is a filter that can be left', () => {
    const { onQuick } = filterBar(counts({}), 'overruled eq true');
    fireEvent.click(screen.getByRole('button', { name: /overruled/ }));
    expect(onQuick).toHaveBeenLastCalledWith({ overruled: false });
  });
});
