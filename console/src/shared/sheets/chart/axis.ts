import { scaleLinear } from 'd3-scale';
import type { Sheet } from '../api';

/** From where to where an axis goes, and the values at which it has lines. */
export interface Axis {
  min: number;
  max: number;
  rules: { value: number; text: string }[];
}

const LINES = 4;

/** Of numbers of things: there is no line between two of them. */
export function ofCounts(most: number): Axis {
  const scale = scaleLinear()
    .domain([0, Math.max(1, most)])
    .nice(LINES);
  const max = scale.domain()[1] ?? 1;
  return {
    min: 0,
    max,
    rules: scale
      .ticks(LINES)
      .filter(Number.isInteger)
      .map((value) => ({ value, text: count(value) })),
  };
}

const ROUND = [
  0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 900, 1800, 3600, 7200,
  14_400, 28_800, 86_400, 172_800, 345_600, 604_800, 1_209_600, 2_592_000,
];

/** Of lengths of time: its lines are at round ones. */
export function ofSeconds(most: number): Axis {
  const between = ROUND.find((one) => one * (LINES + 1) >= most) ?? Math.ceil(most / LINES);
  const lines = Math.max(1, Math.ceil(most / between));
  return {
    min: 0,
    max: lines * between,
    rules: evenly(0, lines, between, time),
  };
}

const ROUND_SHARES = [0.005, 0.01, 0.02, 0.025, 0.05, 0.1, 0.2, 0.25];

/**
 * Of rates: it goes round what there is, since one that moves between 97 % and 99 % would be a flat
 * line from 0 on; and all its lines are as far from each other.
 */
export function ofShares(all: number[]): Axis {
  const low = Math.min(1, ...all);
  const high = Math.max(0, ...all);
  const steps = (one: number) =>
    [Math.floor(low / one + 1e-9), Math.ceil(high / one - 1e-9)] as const;
  const between =
    low === high
      ? 0.05
      : (ROUND_SHARES.find((one) => {
          const [from, to] = steps(one);
          return to - from <= LINES;
        }) ?? 0.25);
  const [from, to] = steps(between);
  // Of a rate that never moves there is still a line above and one below.
  const first = from === to && from * between > 0.5 ? from - 1 : from;
  const last = first === to ? to + 1 : to;
  const round = (step: number) => Math.round(step * between * 1e4) / 1e4;
  return {
    min: round(first),
    max: round(last),
    rules: evenly(first, last, between, (value) => `${Math.round(value * 1000) / 10} %`).map(
      (rule) => ({ ...rule, value: Math.round(rule.value * 1e4) / 1e4 }),
    ),
  };
}

function evenly(first: number, last: number, between: number, words: (value: number) => string) {
  return Array.from({ length: last - first + 1 }, (_, i) => {
    const value = (first + i) * between;
    return { value, text: words(value) };
  });
}

function count(value: number): string {
  return value >= 1e6 && value % 1e5 === 0 ? `${value / 1e6} M` : value.toLocaleString('en-GB');
}

function time(seconds: number): string {
  if (seconds < 60) {
    return `${Math.round(seconds * 100) / 100} s`;
  }
  if (seconds < 3600) {
    return `${Math.round(seconds / 6) / 10} min`;
  }
  return seconds < 172_800
    ? `${Math.round(seconds / 360) / 10} h`
    : `${Math.round(seconds / 8640) / 10} d`;
}

const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' });
const HOUR = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
  timeZone: 'UTC',
});

/** A step in the few letters that an axis has room for; of UTC. */
export function shortDay(iso: string, step: string): string {
  const moment = Date.parse(iso);
  return Number.isNaN(moment) ? '' : (step === 'hour' ? HOUR : DAY).format(moment);
}

/** What each row is called: by its run, or by when it was. */
export function rowNames(sheet: Sheet, step: string): string[] {
  const run = sheet.columns.findIndex((column) => column.key === 'run');
  if (run < 0) {
    return sheet.rows.map((row) => shortDay(row[0]?.text ?? '', step));
  }
  const names = sheet.rows.map((row) => row[run]?.text ?? '');
  const streams = new Set(names.map((name) => name.replace(/#\d+$/, '')));
  // Of one stream its runs are told by their numbers.
  return streams.size === 1 ? names.map((name) => name.replace(/^.*#/, '#')) : names;
}
