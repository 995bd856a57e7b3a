import { isOutcome } from '../../ui/OutcomeGlyph';
import type { Column, Kind } from '../api';

export type Shape = 'circle' | 'diamond' | 'triangle' | 'square';

/** How something is drawn: told by its shape or pattern as well as by its colour. */
export interface Look {
  /** The name of the colour in the theme. */
  colour: string;
  shape: Shape;
  /** Whether its shape is a ring, and not filled. */
  ring: boolean;
  pattern: 'plain' | 'stripes' | 'peaks' | 'dots' | 'rules';
}

const OUTCOME: Record<string, Look> = {
  passed: { colour: '--passed', shape: 'circle', ring: false, pattern: 'plain' },
  failed: { colour: '--failed', shape: 'diamond', ring: false, pattern: 'stripes' },
  errored: { colour: '--errored', shape: 'triangle', ring: false, pattern: 'peaks' },
  skipped: { colour: '--slate', shape: 'circle', ring: true, pattern: 'dots' },
  'not reached': { colour: '--slate', shape: 'circle', ring: true, pattern: 'rules' },
};

const filled = { ring: false, pattern: 'plain' } as const;
const open = { ring: true, pattern: 'dots' } as const;

/** Of lines and of what has no outcome, in their order. */
const OTHERS: readonly Look[] = [
  { colour: '--claret', shape: 'circle', ...filled },
  { colour: '--teal', shape: 'triangle', ...filled },
  { colour: '--ink', shape: 'square', ...filled },
  { colour: '--oak', shape: 'diamond', ...filled },
  { colour: '--plum', shape: 'circle', ...open },
  { colour: '--moss', shape: 'triangle', ...open },
  { colour: '--amber', shape: 'square', ...open },
  { colour: '--slate', shape: 'diamond', ...open },
];

/** Of causes none is drawn as what passed is. */
const CAUSES = OTHERS.filter((look) => look.colour !== '--teal');

/** How the columns look that are drawn, in their order. */
export function looks(columns: Column[], kind: Kind): Look[] {
  const others = kind === 'causes' || kind === 'lost' ? CAUSES : OTHERS;
  return columns.map(
    (column, i) =>
      (isOutcome(column.key) ? OUTCOME[column.key] : others[i % others.length]) ??
      (OTHERS[0] as Look),
  );
}

/** The outline of a shape around a point. */
export function shapeAt(shape: Shape, x: number, y: number, r: number): string {
  const at = (dx: number, dy: number) => `${round(x + dx)} ${round(y + dy)}`;
  switch (shape) {
    case 'circle':
      return `M${at(-r, 0)}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`;
    case 'diamond':
      return `M${at(0, -r * 1.3)}L${at(r * 1.3, 0)}L${at(0, r * 1.3)}L${at(-r * 1.3, 0)}Z`;
    case 'triangle':
      return `M${at(0, -r * 1.2)}L${at(r * 1.2, r)}L${at(-r * 1.2, r)}Z`;
    case 'square':
      return `M${at(-r, -r)}L${at(r, -r)}L${at(r, r)}L${at(-r, r)}Z`;
  }
}

export function round(n: number): number {
  return Math.round(n * 10) / 10;
}
