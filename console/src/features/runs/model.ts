import { plural } from '../../shared/lib/format';
import type { Outcome } from '../../shared/ui/OutcomeGlyph';
import type { Changes, Counts, Part, Result, RunPoint, Stream } from './api';

export interface RunsSearch {
  stream?: string;
  filter?: string | undefined;
}

export function readRunsSearch(search: { stream?: unknown; filter?: unknown }): RunsSearch {
  return {
    ...(typeof search.stream === 'string' ? { stream: search.stream } : {}),
    ...(typeof search.filter === 'string' ? { filter: search.filter } : {}),
  };
}

export interface RunSearch {
  result?: string | undefined;
  filter?: string | undefined;
  view?: 'suites' | 'gone' | undefined;
  bundle?: number | undefined;
}

export function readRunSearch(search: { [key: string]: unknown } | RunSearch): RunSearch {
  const read: RunSearch = {};
  if (typeof search.result === 'string') read.result = search.result;
  if (typeof search.filter === 'string') read.filter = search.filter;
  if (search.view === 'suites' || search.view === 'gone') read.view = search.view;
  if (typeof search.bundle === 'number') read.bundle = search.bundle;
  return read;
}

/** The worst that happened: what a single glyph for a whole run shows. */
export function worst(counts: Counts): Outcome {
  if (counts.failed > 0) return 'failed';
  if (counts.errored > 0 || counts.setUps > 0) return 'errored';
  if (counts.passed > 0) return 'passed';
  return counts.notReached > 0 ? 'not reached' : 'skipped';
}

export const COUNT_FIELDS: Record<
  Outcome,
  'passed' | 'failed' | 'errored' | 'skipped' | 'notReached'
> = {
  passed: 'passed',
  failed: 'failed',
  errored: 'errored',
  skipped: 'skipped',
  'not reached': 'notReached',
};

export interface ChangeWord {
  change: string;
  count: number;
  text: string;
}

/** The changes that there are, in the order in which people look at them. */
export function changeWords(changes: Changes): ChangeWord[] {
  const all: [string, number][] = [
    ['new failing', changes.newFailing],
    ['still failing', changes.stillFailing],
    ['fixed', changes.fixed],
    ['passed on retry', changes.passedOnRetry],
    ['added', changes.added],
    ['gone', changes.gone],
  ];
  return all
    .filter(([, count]) => count > 0)
    .map(([change, count]) => ({ change, count, text: `${count} ${change}` }));
}

/** Whether a test is failing, or a set-up has failed. */
export function needsALook(counts: Counts): boolean {
  return counts.failed + counts.errored + counts.setUps > 0;
}

/** As in “3 failing”, “1 set-up failed, 3 failing” or “nothing failed”. */
export function failingWords(counts: Counts): string {
  const failing = counts.failed + counts.errored;
  const words = [
    ...(counts.setUps > 0 ? [`${plural(counts.setUps, 'set-up')} failed`] : []),
    ...(failing > 0 ? [`${failing} failing`] : []),
  ];
  return words.length === 0 ? 'nothing failed' : words.join(', ');
}

/** Streams that need a look come first; within that by name. */
export function byNeed(streams: Stream[]): Stream[] {
  const need = (stream: Stream) =>
    stream.latest.changes.newFailing > 0 ? 0 : needsALook(stream.latest.counts) ? 1 : 2;
  return [...streams].sort((a, b) => need(a) - need(b) || a.name.localeCompare(b.name));
}

export function displayName(result: { name: string; parameters: string | null }): string {
  return result.name + (result.parameters ?? '');
}

/** A suite's name without the packages before it, where it looks like a class. */
export function shortSuite(name: string): string {
  return /^(?:[a-z_][\w]*\.)+[A-Z][\w$]*$/.test(name)
    ? name.slice(name.lastIndexOf('.') + 1)
    : name;
}

export function isFailing(result: Pick<Result, 'outcome'>): boolean {
  return result.outcome === 'failed' || result.outcome === 'errored';
}

export function runTitle(point: RunPoint): string {
  const c = point.counts;
  return `#${point.number}: ${failingWords(c)} of ${c.tests}`;
}

/** A stretch of time, in milliseconds. */
export interface Span {
  from: number;
  to: number;
}

/** From the first part's start to the last one's end; null when their files tell no times. */
export function spanOf(parts: Pick<Part, 'startedAt' | 'endedAt'>[]): Span | null {
  const starts = parts.flatMap((part) => (part.startedAt ? [Date.parse(part.startedAt)] : []));
  const ends = parts.flatMap((part) => (part.endedAt ? [Date.parse(part.endedAt)] : []));
  return starts.length === 0 || ends.length === 0
    ? null
    : { from: Math.min(...starts), to: Math.max(...ends) };
}

/** As in “api 1/2, api 2/2 and 3 more”. */
export function partNames(parts: Pick<Part, 'name'>[]): string {
  const shown = parts.slice(0, 3).map((part) => part.name);
  const more = parts.length - shown.length;
  return more > 0 ? `${shown.join(', ')} and ${more} more` : shown.join(', ');
}
