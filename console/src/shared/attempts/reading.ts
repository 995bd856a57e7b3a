import { OUTCOMES, type Outcome } from '../ui/OutcomeGlyph';
import type { Attempt, LogLine, Step } from './types';

/** Lines of a log are told apart by how grave they are; the gravest first. */
export const LEVELS = ['error', 'warn', 'info', 'debug', 'trace', 'none'] as const;

/** `none`: the line tells no level. */
export type Level = (typeof LEVELS)[number];

const WORDS: Record<string, Level> = {
  fatal: 'error',
  critical: 'error',
  severe: 'error',
  error: 'error',
  err: 'error',
  fail: 'error',
  warn: 'warn',
  warning: 'warn',
  notice: 'info',
  info: 'info',
  information: 'info',
  config: 'debug',
  debug: 'debug',
  fine: 'debug',
  trace: 'trace',
  verbose: 'trace',
  finer: 'trace',
  finest: 'trace',
};

export function levelOf(word: string | null): Level {
  return (word && WORDS[word.trim().toLowerCase()]) || 'none';
}

// biome-ignore lint/suspicious/noControlCharactersInRegex: terminals are told colours by them
const COLOURS = /\u001b\[[0-9;]*m/g;
const TIME =
  /^\[?(?:\d{4}-\d\d-\d\d[T ])?\d\d:\d\d:\d\d(?:[.,]\d{1,9})?(?: ?(?:Z|[+-]\d\d:?\d\d))?\]?\s*/;
/** Words that stand for a level in printed lines; the others occur in sentences, too. */
const PRINTED =
  'FATAL|CRITICAL|SEVERE|ERROR|WARN|WARNING|NOTICE|INFO|CONFIG|DEBUG|TRACE|VERBOSE|FINE|FINER|FINEST';
const UPPER = new RegExp(`(?:^|[\\s[(|:-])(${PRINTED})(?=$|[\\s\\])|:-])`);
const FIRST = new RegExp(`^[[(<]?(${PRINTED})(?:[\\])>]|:|(?=\\s|$))`, 'i');
const FIELD = /(?:^|[\s{,])"?(?:level|severity)"?\s?[=:]\s?"?([a-z]{3,11})\b/i;

/** How far into a line its level may stand. */
const HEAD = 120;

/**
 * The level that a printed line tells: after a time its first word or a word in capitals, without
 * one its first word in capitals or before a colon, or else a field of that name. A word in the
 * midst of a sentence is none.
 */
function levelInLine(head: string): Level {
  const time = TIME.exec(head)?.[0];
  const rest = time === undefined ? head : head.slice(time.length);
  const first = FIRST.exec(rest);
  const word = first?.[1] ?? '';
  const told =
    time !== undefined || word === word.toUpperCase() || first?.[0].endsWith(':')
      ? levelOf(word)
      : 'none';
  if (told !== 'none') {
    return told;
  }
  const upper = time === undefined ? null : UPPER.exec(rest);
  return levelOf(upper?.[1] ?? FIELD.exec(head)?.[1] ?? null);
}

export interface PrintedLine {
  text: string;
  level: Level;
}

/** Printed text by lines. What follows a line with a level and tells none itself belongs to it. */
export function linesOf(text: string): PrintedLine[] {
  let before: Level = 'none';
  return text
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => {
      const head = line
        .slice(0, 2 * HEAD)
        .replace(COLOURS, '')
        .slice(0, HEAD);
      const own = levelInLine(head);
      before = own === 'none' && !TIME.test(head) ? before : own;
      return { text: line, level: before };
    });
}

/** Lines that stand together: each once, or the first `size` of them over and over. */
export interface Fold<T> {
  lines: T[];
  size: number;
}

const LONGEST_BLOCK = 5;
const LEAST_TIMES = 3;

/** Where more places than these could be folded, folding would help nobody and cost the page. */
const MOST_FOLDS = 500;

/** Folds what is repeated without a break at least three times, up to five lines together. */
export function fold<T>(lines: T[], textOf: (line: T) => string): Fold<T>[] {
  const keys = lines.map((line) => textOf(line).replace(COLOURS, '').replace(TIME, ''));
  const folds: Fold<T>[] = [];
  let plainFrom = 0;
  let at = 0;
  const endPlain = () => {
    if (at > plainFrom) folds.push({ lines: lines.slice(plainFrom, at), size: at - plainFrom });
  };
  while (at < lines.length) {
    const { size, times } = repetition(keys, at);
    if (times < LEAST_TIMES) {
      at++;
      continue;
    }
    endPlain();
    folds.push({ lines: lines.slice(at, at + size * times), size });
    at += size * times;
    plainFrom = at;
  }
  endPlain();
  return folds.length > MOST_FOLDS ? [{ lines, size: lines.length }] : folds;
}

/** The block at a place that, repeated, takes in most lines; the smallest of those. */
function repetition(keys: string[], at: number): { size: number; times: number } {
  let best = { size: 1, times: 1 };
  for (let size = 1; size <= LONGEST_BLOCK; size++) {
    let end = at + size;
    while (end < keys.length && keys[end] === keys[end - size]) end++;
    const times = Math.floor((end - at) / size);
    if (times >= LEAST_TIMES && size * times > best.size * best.times) best = { size, times };
  }
  return best;
}

/** How many lines of an attempt are of which level, in its log, its steps and what it printed. */
export function countLevels(attempt: Attempt): Map<Level, number> {
  const counts = new Map<Level, number>();
  const add = (level: Level) => counts.set(level, (counts.get(level) ?? 0) + 1);
  for (const line of [...attempt.logs, ...logsIn(attempt.steps)]) add(levelOf(line.level));
  for (const text of [attempt.stdout, attempt.stderr]) {
    if (text) for (const line of linesOf(text.text)) add(line.level);
  }
  return new Map(LEVELS.flatMap((level) => pair(counts, level)));
}

function logsIn(steps: Step[]): LogLine[] {
  return steps.flatMap((step) => [...step.logs, ...logsIn(step.steps)]);
}

/** How many steps, inner ones among them, ended how. */
export function countSteps(steps: Step[]): Map<Outcome, number> {
  const counts = new Map<Outcome, number>();
  const walk = (some: Step[]) => {
    for (const step of some) {
      const outcome = step.outcome as Outcome;
      counts.set(outcome, (counts.get(outcome) ?? 0) + 1);
      walk(step.steps);
    }
  };
  walk(steps);
  return new Map(OUTCOMES.flatMap((outcome) => pair(counts, outcome)));
}

function pair<K>(counts: Map<K, number>, key: K): [K, number][] {
  const count = counts.get(key);
  return count ? [[key, count]] : [];
}

/** Steps that ended so, each with the steps around it; all when nothing is chosen. */
export function stepsThat(steps: Step[], outcomes: readonly Outcome[]): Step[] {
  if (outcomes.length === 0) {
    return steps;
  }
  return steps.flatMap((step) => {
    const inner = stepsThat(step.steps, outcomes);
    return inner.length > 0 || outcomes.includes(step.outcome as Outcome)
      ? [{ ...step, steps: inner }]
      : [];
  });
}
