import type { Schemas } from '../../shared/api/client';
import { plural } from '../../shared/lib/format';
import type { StreamToday } from './api';

export type Stream = Schemas['Stream'];

/** A stream with what needs somebody in it. */
export interface Row {
  stream: Stream;
  today: StreamToday | undefined;
}

/** Those that need somebody first: missing runs, outages, new causes, what is unsorted. */
export function rowsOf(streams: Stream[], todays: StreamToday[]): Row[] {
  const byName = new Map(todays.map((one) => [one.stream, one]));
  return streams
    .map((stream) => ({ stream, today: byName.get(stream.name) }))
    .sort((a, b) => need(b) - need(a) || a.stream.name.localeCompare(b.stream.name));
}

function need({ stream, today }: Row): number {
  return (
    (stream.missing ? 1e9 : 0) +
    (doubt(stream) ? 1e7 : 0) +
    (today?.outage ? 1e8 : 0) +
    Math.min(999, today?.fresh ?? 0) * 1e5 +
    Math.min(99_999, today?.open ?? 0)
  );
}

/** What makes a run without a failure no green one; undefined for nothing. */
export function doubt({ latest }: Stream): string | undefined {
  const { counts } = latest;
  if (counts.notReached > 0) {
    return `${plural(counts.notReached, 'test was', 'tests were')} not reached`;
  }
  if (counts.tests === 0) {
    return latest.open ? undefined : 'no test ran';
  }
  return counts.passed === 0 ? 'not one test passed' : undefined;
}

/** Whether nothing in it needs anybody. */
export function isQuiet({ stream, today }: Row): boolean {
  return (
    stream.missing === null &&
    doubt(stream) === undefined &&
    (today === undefined || (today.open === 0 && today.outage === null && today.explained))
  );
}

/** The portal tells so many tests of a kind at most. */
export const MOST_TOLD = 20;

/** How many there are, never as fewer: as in “3”, or “20 or more” where no more are told. */
export function some(told: number): string {
  return told >= MOST_TOLD ? `${MOST_TOLD} or more` : `${told}`;
}

/** What leads to the whole list from the first of those that are told. */
export function further(told: number, shown: number, all: string): string {
  if (told >= MOST_TOLD) {
    return 'and more, in the list';
  }
  return told > shown ? `and ${told - shown} more, in the list` : all;
}
