import { scaleBand, scaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';
import { OUTCOMES } from '../../ui/OutcomeGlyph';
import type { Column, Drawn, Kind, Sheet } from '../api';
import { drawn } from '../drawn';
import { headOf } from '../words';
import { type Axis, ofCounts, ofSeconds, ofShares, rowNames } from './axis';
import { type Look, looks, round } from './looks';

/** Where everything of a chart stands, in pixels from its upper left corner. */
export interface Plot {
  width: number;
  height: number;
  field: { left: number; right: number; top: number; bottom: number };
  rules: { y: number; text: string }[];
  names: { x: number; text: string }[];
  /** What belongs to a row is as wide. */
  step: number;
  marks: Marks[];
  /** Where a line changed for good. */
  shifts: { column: number; row: number; x: number; look: Look }[];
}

/** What is drawn of a column. */
export interface Marks {
  column: number;
  head: Column;
  look: Look;
  bars: { row: number; x: number; y: number; width: number; height: number }[];
  line: string;
  /** Between the ends of intervals. */
  band: string;
  points: { row: number; x: number; y: number }[];
  /** Whether its points are seen one by one. */
  dotted: boolean;
}

/** A column that is drawn, as it is named beside the chart. */
export interface Named {
  /** The same in the next sheet, where it may stand elsewhere. */
  id: string;
  column: number;
  name: string;
  key: string;
  look: Look;
}

/** More rows than these are too close for points of their own. */
const FEW = 62;
const WIDEST_BAR = 28;
/** What is there is seen, however little it is beside the rest. */
const LEAST = 2;
const BELOW = 22;
const BESIDE = 8;
const BETWEEN_NAMES = 14;

/** How wide a text is in pixels. */
export type Measure = (text: string) => number;

function isBar(kind: Kind): boolean {
  return ['outcomes', 'runs', 'growth', 'causes', 'lost'].includes(kind);
}

/** Failing ones stand on the axis, where a few are seen beside many that passed. */
export function named(sheet: Sheet, kind: Kind): Named[] {
  const columns = drawn(sheet);
  if (kind === 'outcomes' || kind === 'runs') {
    columns.sort((a, b) => place(sheet.columns[a]) - place(sheet.columns[b]));
  }
  const heads = columns.map((i) => sheet.columns[i] ?? { key: '', unit: 'text', values: [] });
  const as = looks(heads as Column[], kind);
  return columns.map((column, i) => ({
    id: JSON.stringify([heads[i]?.key, heads[i]?.values]),
    column,
    name: headOf(heads[i] as Column),
    key: heads[i]?.key ?? '',
    look: as[i] as Look,
  }));
}

function place(column: Column | undefined): number {
  return (OUTCOMES as readonly string[]).indexOf(column?.key ?? '');
}

/**
 * Lays a chart out.
 *
 * @param hidden IDs of columns that are left out
 */
export function plotOf(
  sheet: Sheet,
  { kind, step }: Drawn,
  size: { width: number; height: number; top?: number },
  measure: Measure,
  hidden: ReadonlySet<string> = new Set(),
): Plot {
  const shown = named(sheet, kind).filter((one) => !hidden.has(one.id));
  const stacked = isBar(kind) && kind !== 'growth';
  const axis = axisOf(sheet, shown, stacked);
  const top = (size.top ?? 0) + 10;
  const bottom = Math.max(top + 1, size.height - BELOW);
  const left = Math.ceil(Math.max(0, ...axis.rules.map((rule) => measure(rule.text)))) + BESIDE;
  const right = Math.max(left + 1, size.width - BESIDE);
  const y = scaleLinear().domain([axis.min, axis.max]).range([bottom, top]);
  const x = scaleBand<number>()
    .domain(sheet.rows.map((_, i) => i))
    .range([left, right]);
  const wide = x.bandwidth();
  const middle = (row: number) => (x(row) ?? left) + wide / 2;
  const below = sheet.rows.map(() => bottom);
  // What there is none of takes no room beside the others.
  const there = sheet.rows.map((row) =>
    shown.map((one) => one.column).filter((column) => row[column]?.number),
  );
  const most = stacked ? 1 : Math.max(1, ...there.map((columns) => columns.length));
  const marks = shown.map((one): Marks => {
    const numbers = sheet.rows.map((row) => row[one.column]?.number ?? null);
    const base = {
      column: one.column,
      head: sheet.columns[one.column] as Column,
      look: one.look,
    };
    if (isBar(kind)) {
      const width = Math.min(WIDEST_BAR, (wide * 0.72) / most);
      const bars = numbers.flatMap((number, row) => {
        if (!number) {
          return [];
        }
        const height = Math.max(LEAST, bottom - y(number));
        const foot = stacked ? (below[row] ?? bottom) : bottom;
        if (stacked) below[row] = foot - height;
        const beside = stacked ? [one.column] : (there[row] ?? []);
        const from = middle(row) + width * (beside.indexOf(one.column) - beside.length / 2);
        return [
          {
            row,
            x: round(from),
            y: round(foot - height),
            width: Math.max(1, round(width - (stacked ? 0 : 1))),
            height: round(height),
          },
        ];
      });
      return { ...base, bars, line: '', band: '', points: [], dotted: false };
    }
    const points = numbers.flatMap((number, row) =>
      number === null ? [] : [{ row, x: round(middle(row)), y: round(y(number)) }],
    );
    return {
      ...base,
      bars: [],
      points,
      dotted: sheet.rows.length <= FEW,
      line:
        line<number | null>()
          .defined((number) => number !== null)
          .x((_, row) => round(middle(row)))
          .y((number) => round(y(number ?? 0)))(numbers) ?? '',
      band: shown.length === 1 ? intervals(sheet, one.column, middle, y) : '',
    };
  });
  return {
    width: size.width,
    height: size.height,
    field: { left, right, top, bottom },
    rules: axis.rules.map(({ value, text }) => ({ y: round(y(value)), text })),
    names: apart(rowNames(sheet, step), middle, { left, right }, measure),
    step: wide,
    marks,
    shifts: sheet.shifts.flatMap(({ column, row }) => {
      const look = shown.find((one) => one.column === column)?.look;
      return look ? [{ column, row, x: round(left + row * wide), look }] : [];
    }),
  };
}

function intervals(
  sheet: Sheet,
  column: number,
  middle: (row: number) => number,
  y: (value: number) => number,
): string {
  const cells = sheet.rows.map((row) => row[column]);
  if (cells.every((cell) => cell?.low == null || cell.high === null)) {
    return '';
  }
  return (
    area<(typeof cells)[number]>()
      .defined((cell) => cell?.number != null && cell.low !== null && cell.high !== null)
      .x((_, row) => round(middle(row)))
      .y0((cell) => round(y(cell?.low ?? 0)))
      .y1((cell) => round(y(cell?.high ?? 0)))(cells) ?? ''
  );
}

function axisOf(sheet: Sheet, shown: Named[], stacked: boolean): Axis {
  const rows = sheet.rows.map((row) => shown.flatMap((one) => row[one.column]?.number ?? []));
  const unit = sheet.columns[shown[0]?.column ?? -1]?.unit;
  if (unit === 'share') {
    return ofShares(rows.flat());
  }
  const most = rows.reduce(
    (so, row) => Math.max(so, stacked ? row.reduce((a, b) => a + b, 0) : Math.max(0, ...row)),
    0,
  );
  return unit === 'seconds' ? ofSeconds(most) : ofCounts(most);
}

/** Those names that have room, as far from each other as they need. */
function apart(
  names: string[],
  middle: (row: number) => number,
  field: { left: number; right: number },
  measure: Measure,
): { x: number; text: string }[] {
  const most = Math.max(1, ...names.slice(0, 100).map(measure)) + BETWEEN_NAMES;
  const room = names.length === 0 ? 1 : (field.right - field.left) / names.length;
  const every = Math.max(1, Math.ceil(most / room));
  const all: { x: number; text: string }[] = [];
  let free = field.right + BESIDE;
  // From the last one on: that is what people look at.
  for (let row = names.length - 1; row >= 0; row -= every) {
    const text = names[row] ?? '';
    const half = measure(text) / 2;
    const x = Math.min(middle(row), field.right + BESIDE - half);
    if (x - half >= 0 && x + half <= free) {
      all.unshift({ x: round(x), text });
      free = x - half - BETWEEN_NAMES;
    }
  }
  return all;
}

/** The row at a place, or none. */
export function rowAt(plot: Plot, x: number, rows: number): number | undefined {
  const row = Math.floor((x - plot.field.left) / plot.step);
  return x < plot.field.left || row < 0 || row >= rows ? undefined : row;
}

/** Who points at something hits it when it is so near; what is thin can be hit, too. */
const NEAR = 5;
const NEAR_POINT = 14;

/** The column whose mark is at a place of a row, or none. */
export function columnAt(plot: Plot, row: number, x: number, y: number): number | undefined {
  let best: number | undefined;
  let nearest = Number.POSITIVE_INFINITY;
  for (const one of plot.marks) {
    for (const bar of one.bars) {
      if (bar.row !== row || x < bar.x - 1 || x > bar.x + bar.width + 1) {
        continue;
      }
      const off = Math.max(bar.y - y, y - bar.y - bar.height, 0);
      // Beside something thin that is meant, not the tall one around it.
      const thin = bar.height < 2 * NEAR;
      const far = off === 0 && !thin ? NEAR - 1 : off;
      if ((off === 0 || thin) && off < NEAR && far < nearest) {
        nearest = far;
        best = one.column;
      }
    }
    for (const point of one.points) {
      const far = Math.abs(point.y - y);
      if (point.row === row && far < NEAR_POINT && far < nearest) {
        nearest = far;
        best = one.column;
      }
    }
  }
  return best;
}

/** Side by side, line by line, as many as there is room for. */
export function inLines(names: Named[], measure: Measure, beside: number, width: number) {
  let x = 0;
  let line = 0;
  return names.map((of) => {
    const wide = measure(of.name) + beside;
    if (x > 0 && x + wide > width) {
      x = 0;
      line++;
    }
    const at = { of, x, line };
    x += wide;
    return at;
  });
}

let pen: CanvasRenderingContext2D | null | undefined;

/** How wide the letters of charts are, of the size in pixels. */
export function measured(size: number): Measure {
  const font = `${size}px "Source Sans 3 Variable", "Source Sans 3", sans-serif`;
  return (text) => {
    pen ??=
      typeof document === 'undefined' ? null : document.createElement('canvas').getContext('2d');
    if (!pen) {
      return text.length * size * 0.52;
    }
    pen.font = font;
    return pen.measureText(text).width;
  };
}
