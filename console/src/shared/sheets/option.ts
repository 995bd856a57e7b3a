import type { EChartsCoreOption } from 'echarts/core';
import { isOutcome, OUTCOMES, type Outcome } from '../ui/OutcomeGlyph';
import type { Column, Kind, Sheet } from './api';
import { headOf, wordsOf } from './words';

/** The colours of the theme that is shown, by name. */
export type Ink = (name: string) => string;

const COLOUR: Record<Outcome, string> = {
  passed: '--passed',
  failed: '--failed',
  errored: '--errored',
  skipped: '--slate',
  'not reached': '--slate',
};

const SYMBOL: Record<Outcome, string> = {
  passed: 'circle',
  failed: 'diamond',
  errored: 'triangle',
  skipped: 'emptyCircle',
  'not reached': 'emptyCircle',
};

/** What tells bars apart where colours do not. */
const DECAL: Record<Outcome, object | undefined> = {
  passed: undefined,
  failed: { symbol: 'rect', rotation: Math.PI / 4, dashArrayX: [1, 0], dashArrayY: [2, 4] },
  errored: { symbol: 'triangle', symbolSize: 0.7, dashArrayX: [[4, 4]], dashArrayY: [6, 3] },
  skipped: { symbol: 'circle', symbolSize: 0.6, dashArrayX: [[4, 4]], dashArrayY: [5, 3] },
  'not reached': { symbol: 'rect', dashArrayX: [1, 0], dashArrayY: [1, 4] },
};

/** Of lines, in their order; told apart by their symbols, too. */
const LINES: readonly (readonly [string, string])[] = [
  ['--claret', 'circle'],
  ['--teal', 'triangle'],
  ['--ink', 'rect'],
  ['--oak', 'diamond'],
  ['--plum', 'emptyCircle'],
  ['--moss', 'emptyTriangle'],
  ['--amber', 'emptyRect'],
  ['--slate', 'emptyDiamond'],
];

/** Of causes none is drawn as what passed is. */
const CAUSES = LINES.filter(([colour]) => colour !== '--teal');

/** The columns that a chart draws, in their order; the first of all is where on the axis. */
export function drawn(sheet: Sheet): number[] {
  const outcomes = sheet.columns.some((column) => isOutcome(column.key));
  const seconds = !outcomes && sheet.columns.some((column) => column.unit === 'seconds');
  return sheet.columns.flatMap((column, i) =>
    i === 0 ||
    column.key === 'runs' ||
    // Of what stands beside outcomes, or beside lengths of time, the table tells.
    (outcomes && !isOutcome(column.key)) ||
    (seconds && column.unit !== 'seconds')
      ? []
      : [i],
  );
}

function isBar(kind: Kind): boolean {
  return ['outcomes', 'runs', 'growth', 'causes', 'lost'].includes(kind);
}

/** Failing ones stand on the axis, where a few are seen beside many that passed. */
function order(sheet: Sheet, kind: Kind): number[] {
  const columns = drawn(sheet);
  return kind === 'outcomes' || kind === 'runs'
    ? columns.sort((a, b) => place(sheet.columns[a]) - place(sheet.columns[b]))
    : columns;
}

function place(column: Column | undefined): number {
  return (OUTCOMES as readonly string[]).indexOf(column?.key ?? '');
}

/** The chart of a sheet over time. */
export function optionOf(sheet: Sheet, kind: Kind, step: string, ink: Ink): EChartsCoreOption {
  const columns = order(sheet, kind);
  const named = columns.length > 1 || kind === 'causes';
  const units = columns.map((i) => at(sheet, i).unit);
  const share = units.includes('share');
  const seconds = units.includes('seconds');
  const names = sheet.columns.findIndex((column) => column.key === 'run');
  const between = seconds ? roundSeconds(sheet, columns) : 1;
  const shares = share ? roundShares(sheet, columns) : undefined;
  const few = sheet.rows.length <= 62;
  const lines = kind === 'causes' || kind === 'lost' ? CAUSES : LINES;
  const text = { color: ink('--quiet'), fontFamily: 'inherit', fontSize: 12 };
  return {
    animation: false,
    textStyle: { fontFamily: 'inherit' },
    grid: { left: 8, right: 12, top: named ? 34 : 12, bottom: 4, containLabel: true },
    legend: named
      ? {
          type: 'scroll',
          top: 0,
          left: 0,
          itemWidth: 12,
          itemHeight: 10,
          itemGap: 16,
          textStyle: { ...text, color: ink('--color-base-content') },
          pageTextStyle: text,
          data: columns.map((i) => headOf(at(sheet, i))),
        }
      : undefined,
    tooltip: {
      trigger: 'axis',
      axisPointer: { type: isBar(kind) ? 'shadow' : 'line' },
      backgroundColor: ink('--color-base-100'),
      borderColor: ink('--color-base-300'),
      textStyle: { color: ink('--color-base-content'), fontSize: 13 },
      confine: true,
      formatter: (points: { dataIndex: number }[]) =>
        tip(sheet, columns, points[0]?.dataIndex ?? 0),
    },
    xAxis: {
      type: 'category',
      data: sheet.rows.map((row) =>
        names < 0 ? shortDay(row[0]?.text ?? '', step) : (row[names]?.text ?? ''),
      ),
      axisTick: { show: false },
      axisLine: { lineStyle: { color: ink('--color-base-300') } },
      axisLabel: { ...text, hideOverlap: true },
    },
    yAxis: {
      type: 'value',
      // A rate that moves between 97 % and 99 % would be a flat line from 0 on.
      scale: share,
      min: shares?.min,
      max:
        shares?.max ??
        (({ max }: { max: number }) => (seconds ? Math.ceil(max / between) * between : undefined)),
      minInterval: share || seconds ? undefined : 1,
      splitNumber: 4,
      interval: shares?.between ?? (seconds ? between : undefined),
      axisLabel: {
        ...text,
        formatter: (value: number) =>
          share ? `${Math.round(value * 1000) / 10} %` : seconds ? time(value) : String(value),
      },
      splitLine: { lineStyle: { color: ink('--color-base-300') } },
    },
    series: columns.map((i, nr) => {
      const column = at(sheet, i);
      const outcome = (OUTCOMES as readonly string[]).includes(column.key)
        ? (column.key as Outcome)
        : undefined;
      const [colour, symbol] = outcome
        ? [COLOUR[outcome], SYMBOL[outcome]]
        : (lines[nr % lines.length] ?? ['--claret', 'circle']);
      return {
        id: String(i),
        name: headOf(column),
        type: isBar(kind) ? 'bar' : 'line',
        stack: kind === 'growth' || !isBar(kind) ? undefined : 'all',
        barMaxWidth: 28,
        cursor: 'pointer',
        connectNulls: false,
        symbol,
        symbolSize: 7,
        showSymbol: few,
        lineStyle: { width: 2 },
        itemStyle: {
          color: ink(colour),
          opacity: outcome === 'not reached' ? 0.6 : 1,
          decal: outcome ? DECAL[outcome] : undefined,
        },
        data: sheet.rows.map((row) => row[i]?.number ?? null),
      };
    }),
  };
}

function at(sheet: Sheet, i: number): Column {
  return sheet.columns[i] ?? { key: '', unit: 'text', values: [] };
}

const ROUND = [
  0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 900, 1800, 3600, 7200,
  14_400, 28_800, 86_400, 172_800, 345_600, 604_800, 1_209_600, 2_592_000,
];

/** Between the lines of the grid, so that there are about four of them. */
function roundSeconds(sheet: Sheet, columns: number[]): number {
  const most = Math.max(0, ...sheet.rows.flatMap((row) => columns.map((i) => row[i]?.number ?? 0)));
  return ROUND.find((one) => one * 5 >= most) ?? Math.ceil(most / 5);
}

const ROUND_SHARES = [0.005, 0.01, 0.02, 0.025, 0.05, 0.1, 0.2, 0.25];
const MOST_LINES = 4;

/** From where to where a rate goes, so that all lines of the grid are as far from each other. */
export function roundShares(sheet: Sheet, columns: number[]) {
  const all = sheet.rows.flatMap((row) => columns.flatMap((i) => row[i]?.number ?? []));
  const low = Math.min(1, ...all);
  const high = Math.max(0, ...all);
  const steps = (one: number) =>
    [Math.floor(low / one + 1e-9), Math.ceil(high / one - 1e-9)] as const;
  const between =
    low === high
      ? 0.05
      : (ROUND_SHARES.find((one) => {
          const [from, to] = steps(one);
          return to - from <= MOST_LINES;
        }) ?? 0.25);
  const [from, to] = steps(between);
  // Of a rate that never moves there is still a line above and one below.
  const first = from === to && from * between > 0.5 ? from - 1 : from;
  const last = first === to ? to + 1 : to;
  const round = (steps: number) => Math.round(steps * between * 1e4) / 1e4;
  return { min: round(first), max: round(last), between };
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

function escaped(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');
}

function tip(sheet: Sheet, columns: number[], i: number): string {
  const row = sheet.rows[i];
  const lines = columns.flatMap((column) => {
    const cell = row?.[column];
    return cell === undefined || cell.number === null
      ? []
      : [
          `<div style="display:flex;gap:1.5rem;justify-content:space-between"><span>${escaped(
            headOf(at(sheet, column)),
          )}</span><b>${escaped(wordsOf(at(sheet, column), cell))}</b></div>`,
        ];
  });
  const name = row?.[sheet.columns.findIndex((one) => one.key === 'run')]?.text;
  const head = escaped([name, shortDay(row?.[0]?.text ?? '', 'day')].filter(Boolean).join(', '));
  return `<div>${head}</div>${lines.length === 0 ? 'no run' : lines.join('')}`;
}
