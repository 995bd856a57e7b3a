import type { Panel } from './types';

/** What the address of a board says beside the board. */
export interface BoardSearch {
  /** In place of each panel's own period. */
  days?: number | undefined;
  /** Of runs, beside each panel's own. */
  filter?: string | undefined;
  edit?: boolean | undefined;
  /** On a wall: so many seconds for each of the boards that take turns. */
  wall?: number | undefined;
  /** Their IDs, with commas between; only this one when there are none. */
  turns?: string | undefined;
}

const MOST_DAYS = 7320;
export const LEAST_SECONDS = 5;
export const MOST_SECONDS = 3600;

export function readBoardSearch(search: { [key: string]: unknown } | BoardSearch): BoardSearch {
  const days = Number(search.days);
  return {
    ...(Number.isInteger(days) && days >= 1 && days <= MOST_DAYS ? { days } : {}),
    ...(typeof search.filter === 'string' && search.filter !== '' ? { filter: search.filter } : {}),
    ...(search.edit === true ? { edit: true } : {}),
    ...readWall(search),
  };
}

function readWall(search: { [key: string]: unknown } | BoardSearch): BoardSearch {
  const wall = Number(search.wall);
  if (!Number.isInteger(wall) || wall < LEAST_SECONDS || wall > MOST_SECONDS) {
    return {};
  }
  const turns = String(search.turns ?? '');
  return /^\d{1,9}(,\d{1,9}){0,99}$/.test(turns) ? { wall, turns } : { wall };
}

/** The board whose turn it is after one; the same one when no other takes turns. */
export function nextTurn(turns: string | undefined, board: number): number {
  const all = (turns ?? '').split(',').filter(Boolean).map(Number);
  return all[(all.indexOf(board) + 1) % Math.max(1, all.length)] ?? board;
}

export const COLUMNS = 12;
/** Pixels of a row, and between panels. */
export const ROW = 64;
export const GAP = 12;
/** Pixels of a line of a table. */
const LINE = 28;
export const LEAST_WIDTH = 2;
const MOST_HEIGHT = 20;

export const KINDS: readonly (readonly [Panel['kind'], string])[] = [
  ['outcomes', 'Results by outcome'],
  ['rate', 'Pass rate over time'],
  ['time', 'Time of tests over time'],
  ['lengths', 'How long runs take'],
  ['lost', 'Time lost'],
  ['growth', 'Tests that came and went'],
  ['latest', 'Latest run'],
  ['breakdown', 'Side by side'],
  ['worst', 'Tests that failed most'],
  ['causes', 'Failures by category'],
  ['runs', 'Run by run'],
  ['matrix', 'Pass rates in a matrix'],
  ['flaky', 'Flaky tests'],
  ['slowest', 'Slowest tests'],
  ['slowing', 'Tests that became slower'],
  ['groups', 'Failure groups'],
  ['tickets', 'Tickets'],
  ['explaining', 'Time until explained'],
  ['mending', 'Time until fixed'],
  ['people', 'Who explained'],
  ['text', 'Words'],
];

/** Kinds that are drawn over time. */
export const OVER_TIME: readonly Panel['kind'][] = [
  'outcomes',
  'rate',
  'time',
  'lengths',
  'lost',
  'growth',
  'causes',
  'explaining',
  'mending',
];

/** Kinds that tell runs apart by what they have. */
export const APART: readonly Panel['kind'][] = ['rate', 'time', 'breakdown', 'matrix'];

/** Kinds that are charts; the others are tables. */
const CHARTS: readonly Panel['kind'][] = [...OVER_TIME, 'runs'];

export function isChart(kind: Panel['kind']): boolean {
  return CHARTS.includes(kind);
}

/** Whether it is a table, and no chart. */
export function isTable(kind: Panel['kind']): boolean {
  return kind !== 'latest' && !isChart(kind);
}

export function titleOf(panel: Panel): string {
  return panel.title !== ''
    ? panel.title
    : (KINDS.find(([kind]) => kind === panel.kind)?.[1] ?? '');
}

/** So many lines of a table are in sight at most, beside title and head. */
export function rowsIn(panel: Panel): number {
  return Math.ceil((panel.height * (ROW + GAP)) / LINE) - 2;
}

function meet(a: Panel, b: Panel): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
}

/** The panel within the grid. */
function within(panel: Panel): Panel {
  const width = Math.min(COLUMNS, Math.max(LEAST_WIDTH, panel.width));
  return {
    ...panel,
    width,
    height: Math.min(MOST_HEIGHT, Math.max(1, panel.height)),
    x: Math.min(COLUMNS - width, Math.max(0, panel.x)),
    y: Math.max(0, panel.y),
  };
}

/** All panels with one in another place; those in its way go down, and none lies on another. */
export function placed(panels: readonly Panel[], at: number, next: Panel): Panel[] {
  const moved = within(next);
  const order = panels
    .map((panel, i) => (i === at ? moved : panel))
    .map((panel, i) => ({ panel, i }))
    .sort((a, b) =>
      a.i === at ? -1 : b.i === at ? 1 : a.panel.y - b.panel.y || a.panel.x - b.panel.x,
    );
  const done: { panel: Panel; i: number }[] = [];
  for (const one of order) {
    let panel = one.panel;
    for (
      let under = done.find((other) => meet(panel, other.panel));
      under;
      under = done.find((other) => meet(panel, other.panel))
    ) {
      panel = { ...panel, y: under.panel.y + under.panel.height };
    }
    done.push({ panel, i: one.i });
  }
  return done.sort((a, b) => a.i - b.i).map((one) => one.panel);
}

/** The row below all panels. */
export function bottom(panels: readonly Panel[]): number {
  return panels.reduce((most, panel) => Math.max(most, panel.y + panel.height), 0);
}

/** A panel to begin with, below all others. */
export function newPanel(panels: readonly Panel[]): Panel {
  return {
    title: '',
    text: '',
    kind: 'outcomes',
    x: 0,
    y: bottom(panels),
    width: 6,
    height: 4,
    filter: '',
    days: 30,
    step: 'day',
    by: [],
    minimum: null,
    project: null,
  };
}
