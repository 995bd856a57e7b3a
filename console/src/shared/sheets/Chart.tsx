import { BarChart, LineChart } from 'echarts/charts';
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components';
import { type ECharts, init, use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef, useState } from 'react';
import type { Cell, Drawn, Sheet } from './api';
import { drawn, optionOf, shortDay } from './option';
import { onPaper } from './paper';
import { headOf, wordsOf } from './words';

use([BarChart, LineChart, GridComponent, LegendComponent, TooltipComponent, SVGRenderer]);

/** A chart over time. Arrows go through its points, Enter opens the list behind one. */
export function Chart(props: {
  sheet: Sheet;
  panel: Drawn;
  title: string;
  onOpen: (cell: Cell) => void;
}) {
  const { sheet, panel, onOpen } = props;
  const place = useRef<HTMLDivElement>(null);
  const [made, setMade] = useState<ECharts>();
  const opened = useRef(onOpen);
  const [at, setAt] = useState<[row: number, column: number]>();
  const theme = useTheme();
  opened.current = onOpen;

  useEffect(() => {
    const element = place.current;
    if (!element) {
      return;
    }
    let chart: ECharts | undefined;
    // What tells of the size has it at hand; asking for it would lay the page out for each chart.
    const watch = new ResizeObserver((all) => {
      const { width, height } = all.at(-1)?.contentRect ?? { width: 0, height: 0 };
      if (chart) {
        chart.resize({ width, height });
      } else if (width > 0) {
        chart = init(element, undefined, { renderer: 'svg', width, height });
        setMade(chart);
      }
    });
    watch.observe(element);
    return () => {
      watch.disconnect();
      chart?.dispose();
      setMade(undefined);
    };
  }, []);

  // biome-ignore lint/correctness/useExhaustiveDependencies: another theme has other colours
  useEffect(() => {
    if (!made) {
      return;
    }
    const draw = () => {
      const style = getComputedStyle(document.documentElement);
      made.setOption(
        optionOf(sheet, panel.kind, panel.step, (name) => style.getPropertyValue(name).trim()),
        true,
      );
    };
    draw();
    made.off('click');
    made.on('click', (event) => {
      const column = Number(event.seriesId);
      const cell = sheet.rows[event.dataIndex]?.[column];
      if (cell) {
        opened.current(cell);
      }
    });
    return onPaper(() => {
      made.resize({ width: 'auto', height: 'auto' });
      draw();
    });
  }, [made, sheet, panel.kind, panel.step, theme]);

  const columns = drawn(sheet);
  const cell = at ? sheet.rows[at[0]]?.[at[1]] : undefined;
  const go = (rows: number, series: number) => {
    const row = clamp((at?.[0] ?? sheet.rows.length) + rows, sheet.rows.length);
    const now = at ? columns.indexOf(at[1]) : 0;
    const column = columns[clamp(now + series, columns.length)] ?? 0;
    setAt([row, column]);
    made?.dispatchAction({ type: 'showTip', seriesIndex: 0, dataIndex: row });
  };
  const onKey = (event: React.KeyboardEvent) => {
    const step: Record<string, [number, number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const to = step[event.key];
    if (to && sheet.rows.length > 0) {
      event.preventDefault();
      event.stopPropagation();
      go(...to);
    } else if (event.key === 'Enter' && cell) {
      event.preventDefault();
      onOpen(cell);
    }
  };
  return (
    <div className="relative flex min-h-0 grow flex-col">
      <div
        ref={place}
        role="group"
        aria-label={`${props.title}, chart; arrows go through its points, Enter opens one`}
        tabIndex={0}
        onKeyDown={onKey}
        className="min-h-0 grow"
      />
      <p role="status" className={`truncate text-[13px] ${at ? 'px-1 text-quiet' : 'sr-only'}`}>
        {at && cell ? told(sheet, panel, at, cell) : ''}
      </p>
    </div>
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

/** Goes up when another theme is chosen. */
function useTheme(): number {
  const [theme, setTheme] = useState(0);
  useEffect(() => {
    const watch = new MutationObserver(() => setTheme((n) => n + 1));
    watch.observe(document.documentElement, { attributeFilter: ['data-theme'] });
    return () => watch.disconnect();
  }, []);
  return theme;
}
