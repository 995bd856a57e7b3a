import { useNavigate } from '@tanstack/react-router';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useRef, useState } from 'react';
import { useKeys } from '../../../shared/lib/keys';
import type { Grid } from '../api';
import { Cell, ROW } from './Cell';
import { cellWords } from './words';

/** So wide is a column: few runs have room to breathe. */
function widthOf(runs: number): number {
  return runs > 60 ? 10 : 15;
}

/** Every so many columns the number of the run stands above. */
const MARK = 10;

interface At {
  row: number;
  run: number;
}

/** Rows of tests, columns of runs; arrows go through the cells, Enter opens the result. */
export function GridTable(props: {
  project: string;
  stream: string;
  grid: Grid;
  onSay: (words: string) => void;
}) {
  const { project, stream, grid } = props;
  const [at, setAt] = useState<At>();
  const viewport = useRef<HTMLDivElement>(null);
  const navigate = useNavigate();
  const virtual = useVirtualizer({
    count: grid.tests.length,
    getScrollElement: () => viewport.current,
    estimateSize: () => ROW,
    overscan: 20,
  });
  const go = (next: At) => {
    setAt(next);
    props.onSay(cellWords(grid, next.row, next.run));
  };
  const open = ({ row, run }: At) => {
    const test = grid.tests[row];
    const column = grid.runs[run];
    if (test && column && test.cells[run] !== '.') {
      void navigate({
        to: '/$project/runs/$',
        params: { project, _splat: `${stream}/${column.number}` },
        search: { filter: `testId eq ${test.id}` },
      });
    }
  };
  const history = (row: number) => {
    const test = grid.tests[row];
    if (test) {
      void navigate({
        to: '/$project/tests',
        params: { project },
        search: { test: test.id, in: stream, stream },
      });
    }
  };
  useKeys((event) => {
    const next = stepped(event.key, at, grid);
    if (next) {
      event.preventDefault();
      go(next);
      virtual.scrollToIndex(next.row);
    } else if (event.key === 'Enter' && at && event.target === viewport.current) {
      open(at);
    } else if (event.key === 'h' && at) {
      history(at.row);
    }
  });
  const cell = widthOf(grid.runs.length);
  const width = grid.runs.length * cell;
  // Names take what the runs leave.
  const names = `clamp(13rem, calc(100cqw - ${width + 24}px), 36rem)`;
  return (
    <div
      ref={viewport}
      className="@container min-h-0 grow overflow-auto focus-visible:outline-2 focus-visible:-outline-offset-2"
      tabIndex={0}
      role="group"
      aria-label={`${grid.tests.length} tests by ${grid.runs.length} runs of ${stream}`}
    >
      <div className="sticky top-0 z-20 flex w-max min-w-full border-b border-base-300 bg-base-100">
        <span
          className="sticky left-0 shrink-0 bg-base-100 px-5 py-1 text-[13px] text-quiet"
          style={{ width: names }}
        >
          {grid.more ? `the first ${grid.tests.length} tests` : ''}
        </span>
        <svg width={width} height={26} aria-hidden className="shrink-0">
          {grid.runs.map((run, i) =>
            (grid.runs.length - 1 - i) % MARK === 0 ? (
              <text
                key={run.id}
                x={i * cell + cell}
                y={16}
                textAnchor="end"
                className="fill-quiet text-[11px]"
              >
                #{run.number}
              </text>
            ) : null,
          )}
          {at ? (
            <rect x={at.run * cell} y={22} width={cell} height={4} className="fill-primary" />
          ) : null}
        </svg>
      </div>
      <div className="relative w-max min-w-full" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((item) => {
          const test = grid.tests[item.index];
          return test === undefined ? null : (
            <div
              key={test.id}
              className="absolute top-0 left-0 flex w-max min-w-full"
              style={{ height: ROW, transform: `translateY(${item.start}px)` }}
            >
              <Name
                test={test.test}
                variant={test.variant}
                width={names}
                chosen={at?.row === item.index}
                onOpen={() => history(item.index)}
              />
              {/* biome-ignore lint/a11y/useKeyWithClickEvents: the keys are those of the whole grid */}
              {/* biome-ignore lint/a11y/noStaticElementInteractions: the same */}
              <div
                className={`relative shrink-0 cursor-pointer ${
                  at?.row === item.index ? 'bg-base-200' : ''
                }`}
                style={{ width }}
                onMouseMove={(event) => {
                  const run = runUnder(event, grid.runs.length, cell);
                  if (at?.row !== item.index || at.run !== run) {
                    go({ row: item.index, run });
                  }
                }}
                onClick={(event) =>
                  open({ row: item.index, run: runUnder(event, grid.runs.length, cell) })
                }
              >
                <Cells cells={test.cells} cell={cell} />
                {at?.row === item.index ? (
                  <span
                    className="pointer-events-none absolute inset-y-0 border border-primary"
                    style={{ left: at.run * cell, width: cell }}
                  />
                ) : null}
              </div>
            </div>
          );
        })}
      </div>
    </div>
  );
}

function runUnder(
  event: { clientX: number; currentTarget: Element },
  runs: number,
  cell: number,
): number {
  const left = event.currentTarget.getBoundingClientRect().left;
  return Math.max(0, Math.min(runs - 1, Math.floor((event.clientX - left) / cell)));
}

function Name(props: {
  test: string;
  variant: string;
  /** As CSS has it. */
  width: string;
  chosen: boolean;
  onOpen: () => void;
}) {
  const hash = props.test.indexOf('#');
  const suite = props.test.slice(0, hash);
  return (
    <button
      type="button"
      tabIndex={-1}
      onClick={props.onOpen}
      title={`${props.test}${props.variant === '' ? '' : ` [${props.variant}]`}`}
      style={{ width: props.width }}
      className={`sticky left-0 z-10 flex shrink-0 items-center gap-1.5 px-5 text-left text-[13px] ${
        props.chosen ? 'bg-base-200 font-semibold' : 'bg-base-100'
      }`}
    >
      <span className="max-w-[75%] shrink-0 truncate">{props.test.slice(hash + 1)}</span>
      <span className="min-w-0 truncate font-normal text-quiet">
        {suite.slice(suite.lastIndexOf('.') + 1)}
      </span>
      {props.variant === '' ? null : (
        <span className="max-w-28 shrink-0 truncate text-quiet">{props.variant}</span>
      )}
    </button>
  );
}

const Cells = memo(function Cells({ cells, cell }: { cells: string; cell: number }) {
  return (
    <svg width={cells.length * cell} height={16} aria-hidden className="mt-[3px] block">
      {[...cells].map((sign, run) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a column is a place
        <Cell key={run} sign={sign} cx={run * cell + cell / 2} />
      ))}
    </svg>
  );
});

/** Where an arrow leads; the latest run of the first test to begin with. */
function stepped(key: string, at: At | undefined, grid: Grid): At | undefined {
  const last = grid.runs.length - 1;
  const from = at ?? { row: -1, run: last };
  switch (key) {
    case 'ArrowDown':
    case 'j':
      return { ...from, row: Math.min(from.row + 1, grid.tests.length - 1) };
    case 'ArrowUp':
    case 'k':
      return { ...from, row: Math.max(from.row - 1, 0) };
    case 'ArrowLeft':
      return { row: Math.max(from.row, 0), run: Math.max(from.run - 1, 0) };
    case 'ArrowRight':
      return { row: Math.max(from.row, 0), run: Math.min(from.run + 1, last) };
    default:
      return undefined;
  }
}
