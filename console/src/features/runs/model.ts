import { LEVELS, type Level } from '../../shared/attempts/reading';
import type { Detail } from '../../shared/attempts/types';
import { plural } from '../../shared/lib/format';
import { OUTCOMES, type Outcome } from '../../shared/ui/OutcomeGlyph';
import type { Changes, Counts, Part, Result, Run, RunPoint, Stream } from './api';

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

/** What a number leads to: runs or results of all streams, by a filter. */
export interface FoundSearch {
  of: 'run' | 'result' | 'test';
  filter: string;
  /** The chosen result: its stream, run and ID, as `foundKey` makes it. */
  chosen?: string | undefined;
}

export function readFoundSearch(search: { [key: string]: unknown } | FoundSearch): FoundSearch {
  return {
    of: search.of === 'run' || search.of === 'test' ? search.of : 'result',
    filter: typeof search.filter === 'string' ? search.filter : '',
    ...(typeof search.chosen === 'string' ? { chosen: search.chosen } : {}),
  };
}

/** A result among those of all runs. */
export function foundKey(stream: string, number: number, result: string): string {
  return `${stream}#${number}:${result}`;
}

export interface FoundPlace {
  stream: string;
  number: number;
  result: string;
}

/** What `foundKey` made; undefined for anything else. */
export function readFoundKey(key: string | undefined): FoundPlace | undefined {
  const match = key?.match(/^(.+)#(\d{1,9}):([^:#]+)$/);
  return match?.[1] && match[2] && match[3]
    ? { stream: match[1], number: Number(match[2]), result: match[3] }
    : undefined;
}

/** What the address of a run says beside the run. */
export interface RunSearch {
  result?: string | undefined;
  /** Counted from 1. */
  attempt?: number | undefined;
  filter?: string | undefined;
  view?: 'suites' | 'groups' | 'gone' | 'differences' | undefined;
  /** The number of a failure group. */
  group?: number | undefined;
  /** The number of a run that this one is compared with in place of the run before. */
  against?: number | undefined;
  bundle?: number | undefined;
  /** The result that another one is held against, as `readPin` reads it. */
  pin?: string | undefined;
  find?: string | undefined;
  steps?: readonly Outcome[] | undefined;
  levels?: readonly Level[] | undefined;
}

export function readRunSearch(search: { [key: string]: unknown } | RunSearch): RunSearch {
  const read: RunSearch = {};
  if (typeof search.result === 'string') read.result = search.result;
  if (Number.isInteger(search.attempt) && Number(search.attempt) > 0) {
    read.attempt = Number(search.attempt);
  }
  if (typeof search.filter === 'string') read.filter = search.filter;
  if (Number.isInteger(search.against) && Number(search.against) > 0) {
    read.against = Number(search.against);
  }
  if (search.view === 'suites' || search.view === 'groups' || search.view === 'gone') {
    read.view = search.view;
  }
  if (Number.isInteger(search.group) && Number(search.group) > 0) {
    read.group = Number(search.group);
  }
  if (search.view === 'differences' && read.against) read.view = search.view;
  if (typeof search.bundle === 'number') read.bundle = search.bundle;
  if (typeof search.pin === 'string' && readPin(search.pin)) read.pin = search.pin;
  // A search for a number is read as one.
  if (['string', 'number'].includes(typeof search.find)) read.find = String(search.find);
  const steps = someOf(OUTCOMES, search.steps);
  if (steps.length > 0) read.steps = steps;
  const levels = someOf(LEVELS, search.levels);
  if (levels.length > 0) read.levels = levels;
  return read;
}

function someOf<K extends string>(known: readonly K[], told: unknown): K[] {
  return Array.isArray(told) ? known.filter((one) => told.includes(one)) : [];
}

/** Where a result is, and which of its tries is looked at. */
export interface Pin {
  stream: string;
  number: number;
  result: string;
  /** Counted from 1. */
  attempt: number;
}

/** As in `booking-api/nightly/12:3-7:1`. */
export function readPin(text: string | undefined): Pin | undefined {
  const match = /^(.+)\/(\d{1,9}):([\d-]+):(\d{1,6})$/.exec(text ?? '');
  const [, stream, number, result, attempt] = match ?? [];
  return stream && result
    ? { stream, number: Number(number), result, attempt: Number(attempt) }
    : undefined;
}

export function pinText(pin: Pin): string {
  return `${pin.stream}/${pin.number}:${pin.result}:${pin.attempt}`;
}

/** What is kept of an address when a result of another run is gone to. */
export function otherResult({ pin, find, steps, levels }: RunSearch, result: string): RunSearch {
  return cleaned({ result, pin, find, steps, levels });
}

/** Without what is not set, so that addresses stay short. */
export function cleaned(search: RunSearch): RunSearch {
  return Object.fromEntries(
    Object.entries(search).filter(
      ([, value]) =>
        value !== undefined && value !== '' && !(Array.isArray(value) && value.length === 0),
    ),
  );
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
    ['failing as before', changes.failingAsBefore],
    ['fixed', changes.fixed],
    ['passed on retry', changes.passedOnRetry],
    ['added', changes.added],
    ['gone', changes.gone],
    ['renamed', changes.renamed],
  ];
  return all
    .filter(([, count]) => count > 0)
    .map(([change, count]) => ({ change, count, text: `${count} ${change}` }));
}

/** Whether so much fails that one cause could fail most of it; the portal knows. */
export function mayBeOut(counts: Counts): boolean {
  const ran = counts.passed + counts.failed + counts.errored + counts.notReached;
  return (counts.failed + counts.errored + counts.setUps) * 2 > ran;
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
    stream.latest.changes.newFailing > 0
      ? 0
      : stream.missing || needsALook(stream.latest.counts)
        ? 1
        : 2;
  return [...streams].sort((a, b) => need(a) - need(b) || a.name.localeCompare(b.name));
}

export function displayName(result: { name: string; parameters: string | null }): string {
  return result.name + (result.parameters ?? '');
}

type Place = Pick<Detail['elsewhere'][number], 'variant' | 'part' | 'outcome'>;

/** A word of a variant without its key, where it says enough. */
export function variantWord(key: string, value: string): string {
  return /^[\d.]|^(true|false|yes|no|on|off)$/i.test(value) ? `${key} ${value}` : value;
}

/** Where a test stands in the run, this result first. */
function places(detail: Detail): Place[] {
  return [{ ...detail.result, part: detail.part }, ...detail.elsewhere];
}

/** What of a place differs from the others: words of its variant, or else its part. */
export function whereOf(place: Place, detail: Detail): string {
  const others = places(detail);
  const words = Object.entries(place.variant)
    .filter(([key, value]) => others.some((other) => other.variant[key] !== value))
    .map(([key, value]) => variantWord(key, value));
  return words.length > 0 ? words.join(', ') : place.part;
}

/** In which of its variants or parts a test fails; empty when it fails in none. */
export function elsewhereWords(detail: Detail): string {
  const all = places(detail);
  const failing = all.filter(isFailing);
  if (failing.length === 0) {
    return '';
  }
  if (failing.length === all.length) {
    return `fails in all ${all.length}`;
  }
  return failing.length > 3
    ? `fails in ${failing.length} of ${all.length}`
    : `fails in ${failing.map((one) => whereOf(one, detail)).join(' and ')} only`;
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

/** With which run a run is compared, for before the changes. */
export function sinceWords(
  run: Pick<Run, 'number' | 'branch' | 'previousNumber' | 'previousBranch'>,
): string {
  if (run.previousNumber !== null) {
    return run.previousBranch === run.branch
      ? `Since #${run.previousNumber}:`
      : `Since #${run.previousNumber} of ${run.previousBranch ?? 'no branch'}:`;
  }
  return run.number === 1 ? 'The first run' : 'Nothing before it to compare with';
}

/** Labels with a meaning that is always the same, in the order in which they are shown. */
const KNOWN_LABELS = ['trigger', 'by', 'sut', 'version', 'tester'];

/** What the labels of a run say of how it came to be and of what was tested, and the rest. */
export function runAbout(labels: Record<string, string>) {
  const words = (...keys: string[]) =>
    keys.map((key) => labels[key]).filter((word) => word !== undefined);
  return {
    started: words('trigger', 'by').join(', ') || null,
    tested: words('sut', 'version').join(' ') || null,
    tester: labels.tester ?? null,
    other: Object.fromEntries(
      Object.entries(labels).filter(([key]) => !KNOWN_LABELS.includes(key)),
    ),
  };
}

/** So many earlier results of a test are told of. */
const BEFORE_TOLD = 30;

/**
 * Since when a failing result fails: the run, and whether it may be longer; null when it began in
 * its own run.
 */
export function failingSince(before: { run: number; outcome: string }[]) {
  // Where it was skipped nobody knows; only a pass ends it.
  const passed = before.findIndex((earlier) => earlier.outcome === 'passed');
  const failing = (passed < 0 ? before : before.slice(0, passed)).filter(
    ({ outcome }) => outcome === 'failed' || outcome === 'errored',
  );
  const first = failing.at(-1);
  return first ? { run: first.run, orLonger: passed < 0 && before.length >= BEFORE_TOLD } : null;
}
