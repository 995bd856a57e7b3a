// @vitest-environment jsdom

import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Counts } from '../api';
import { CountsLine } from '../components/CountsLine';
import type { RunSearch } from '../model';
import { counts, result } from '../testData';
import { FilterBar } from './FilterBar';
import type { Quick } from './quick';
import { ResultRow } from './ResultRow';

afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

describe('ResultRow', () => {
  it('shows a class by its short name, and its full one on hover', () => {
    render(<ResultRow result={result({ parameters: '[2]' })} withSuite categories={undefined} />);
    expect(screen.getByText('FareTest').title).toBe('org.skerrow.fares.FareTest');
    expect(screen.getByTitle('roundsUp[2]').textContent).toBe('roundsUp[2]');
  });

  it('marks what is new, and what was tried several times', () => {
    render(
      <ResultRow
        result={result({ outcome: 'failed', change: 'new failing', attempts: 3 })}
        withSuite={false}
        categories={undefined}
      />,
    );
    expect(screen.getByText('new')).toBeTruthy();
    expect(screen.getByTitle('3 attempts')).toBeTruthy();
    expect(screen.queryByText('FareTest')).toBeNull();
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
    expect(names).toEqual(['Filter', 'Suites', 'Groups', '2 failed', '1 skipped', '5 passed']);
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

  it('is written into at once when it is opened', () => {
    bar('outcome eq "failed"');
    fireEvent.click(screen.getByRole('button', { name: 'Filter' }));
    expect(document.activeElement).toBe(screen.getByLabelText('Filter of results'));
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
    render(
      <ResultRow
        result={result({ outcome: 'skipped', reported: 'failed' })}
        withSuite
        categories={undefined}
      />,
    );
    expect(screen.getByTitle('Reported as failed').textContent).toBe('overruled');
  });

  it('is a filter that can be left', () => {
    const { onQuick } = filterBar(counts({}), 'overruled eq true');
    fireEvent.click(screen.getByRole('button', { name: /overruled/ }));
    expect(onQuick).toHaveBeenLastCalledWith({ overruled: false });
  });
});
