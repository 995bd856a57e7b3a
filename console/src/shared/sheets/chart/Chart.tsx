import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import type { Cell, Drawn, Sheet } from '../api';
import { onPaper } from '../paper';
import { headOf, wordsOf } from '../words';
import { shortDay } from './axis';
import { Drawing } from './Drawing';
import { Legend } from './Legend';
import { columnAt, measured, named, type Plot, plotOf, rowAt } from './plot';
import { ShiftsTold } from './ShiftsTold';
import { Tip } from './Tip';

const LETTERS = 12;
const wide = measured(LETTERS);
const ink = (name: string) => `var(${name})`;

/** A chart over time. Arrows go through its points, Enter opens the list behind one. */
export function Chart(props: {
  /** Where its numbers lead. */
  project: string;
  sheet: Sheet;
  panel: Drawn;
  title: string;
  onOpen: (cell: Cell) => void;
}) {
  const { sheet, panel, onOpen } = props;
  const { kind, step } = panel;
  const place = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<{ width: number; height: number }>();
  const [hidden, setHidden] = useState<ReadonlySet<string>>(new Set());
  const [at, setAt] = useState<[row: number, column: number]>();
  const [over, setOver] = useState<{ row: number; column: number | undefined }>();

  useEffect(() => {
    const element = place.current;
    if (!element) {
      return;
    }
    // What tells of the size has it at hand; asking for it would lay the page out for each chart.
    const watch = new ResizeObserver((all) => {
      const box = all.at(-1)?.contentRect;
      if (box && box.width > 0) setSize({ width: box.width, height: box.height });
    });
    watch.observe(element);
    const off = onPaper(() => {
      const box = element.getBoundingClientRect();
      flushSync(() => setSize({ width: box.width, height: box.height }));
    });
    return () => {
      watch.disconnect();
      off();
    };
  }, []);

  const all = useMemo(() => named(sheet, kind), [sheet, kind]);
  const plot = useMemo(
    () => (size ? plotOf(sheet, { kind, step }, size, wide, hidden) : undefined),
    [sheet, kind, step, size, hidden],
  );
  const columns = plot?.marks.map((one) => one.column) ?? [];
  const cell = at ? sheet.rows[at[0]]?.[at[1]] : undefined;
  const onKey = (event: React.KeyboardEvent) => {
    const way = MOVES[event.key];
    if (way && sheet.rows.length > 0) {
      event.preventDefault();
      event.stopPropagation();
      const row = clamp((at?.[0] ?? sheet.rows.length) + way[0], sheet.rows.length);
      const now = at ? columns.indexOf(at[1]) : 0;
      setAt([row, columns[clamp(now + way[1], columns.length)] ?? 0]);
    } else if (event.key === 'Enter' && cell) {
      event.preventDefault();
      onOpen(cell);
    }
  };
  const where = (event: PointerEvent | React.MouseEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    // On a wall the page may be shown larger than it is laid out.
    const scale = plot && box.width > 0 ? plot.width / box.width : 1;
    const x = (event.clientX - box.left) * scale;
    const y = (event.clientY - box.top) * scale;
    const row = plot ? rowAt(plot, x, sheet.rows.length) : undefined;
    return plot && row !== undefined ? { row, column: columnAt(plot, row, x, y) } : undefined;
  };
  const onPoint = (event: PointerEvent) => {
    const next = where(event);
    if (next?.row !== over?.row || next?.column !== over?.column) setOver(next);
  };
  const onClick = (event: React.MouseEvent) => {
    const found = where(event);
    const its = found?.column === undefined ? undefined : sheet.rows[found.row]?.[found.column];
    if (its) onOpen(its);
  };
  const shown = over?.row ?? at?.[0];
  return (
    <div className="relative flex min-h-0 grow flex-col">
      {all.length > 1 || kind === 'causes' ? (
        <Legend all={all} hidden={hidden} width={size?.width} onChange={setHidden} />
      ) : null}
      <div
        ref={place}
        role="group"
        aria-label={`${props.title}, chart; arrows go through its points, Enter opens one`}
        tabIndex={0}
        onKeyDown={onKey}
        onBlur={() => setAt(undefined)}
        onPointerMove={onPoint}
        onPointerLeave={() => setOver(undefined)}
        onClick={onClick}
        className={`relative min-h-0 grow overflow-visible ${
          over?.column === undefined ? '' : 'cursor-pointer'
        }`}
      >
        {plot ? (
          <>
            {/* What is not in sight is neither laid out nor painted. */}
            <div className="absolute inset-0 [content-visibility:auto] print:[content-visibility:visible]">
              <svg
                width={plot.width}
                height={plot.height}
                aria-hidden
                className="chart absolute inset-0"
                style={{ fontSize: LETTERS }}
              >
                {shown === undefined ? null : <Row plot={plot} row={shown} />}
                <Drawing plot={plot} ink={ink} letters={LETTERS} />
              </svg>
            </div>
            {shown === undefined ? null : <Tip sheet={sheet} plot={plot} row={shown} step={step} />}
          </>
        ) : null}
      </div>
      <ShiftsTold project={props.project} sheet={sheet} step={step} />
      <p role="status" className={`truncate text-[13px] ${at ? 'px-1 text-quiet' : 'sr-only'}`}>
        {at && cell ? told(sheet, panel, at, cell) : ''}
      </p>
    </div>
  );
}

const MOVES: Record<string, [rows: number, columns: number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

function Row({ plot, row }: { plot: Plot; row: number }) {
  return (
    <rect
      x={plot.field.left + row * plot.step}
      y={plot.field.top}
      width={plot.step}
      height={plot.field.bottom - plot.field.top}
      fill="var(--color-base-300)"
      opacity={0.45}
    />
  );
}

function clamp(n: number, length: number): number {
  return Math.min(length - 1, Math.max(0, n));
}

function told(sheet: Sheet, panel: Drawn, at: [number, number], cell: Cell): string {
  const column = sheet.columns[at[1]];
  const day = shortDay(sheet.rows[at[0]]?.[0]?.text ?? '', panel.step);
  return column === undefined
    ? ''
    : `${day}, ${headOf(column)}: ${cell.number === null ? 'no run' : wordsOf(column, cell)}${
        cell.link ? ' – Enter opens it' : ''
      }`;
}
