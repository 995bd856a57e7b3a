import { flushSync } from 'react-dom';
import { createRoot } from 'react-dom/client';
import type { Sheet } from '../../../shared/sheets/api';
import { Drawing, type Ink } from '../../../shared/sheets/chart/Drawing';
import { shapeAt } from '../../../shared/sheets/chart/looks';
import { inLines, measured, named, plotOf } from '../../../shared/sheets/chart/plot';
import type { Panel } from '../types';

const WIDTH = 960;
const HEIGHT = 480;
const MARGIN = 12;
const LETTERS = 13;
const HEAD = 66;
const LINE = 20;
/** Twice as many points each way, for slides. */
const SHARPER = 2;
const WIDER = 1.15;
const FONT = "'Source Sans 3 Variable', 'Source Sans 3', 'Segoe UI', Helvetica, Arial, sans-serif";

/** A chart as a drawing of its own, with its title and time, on the ground of the theme. */
export function drawing(sheet: Sheet, panel: Panel, title: string, time: string): string {
  const style = getComputedStyle(document.documentElement);
  const ink: Ink = (name) => style.getPropertyValue(name).trim();
  // A picture has no letters of its own: those of whoever looks at it may be wider than ours.
  const ours = measured(LETTERS);
  const measure = (text: string) => WIDER * ours(text);
  const names = named(sheet, panel.kind);
  const told =
    names.length > 1 || panel.kind === 'causes'
      ? inLines(names, measure, 34, WIDTH - 2 * MARGIN)
      : [];
  const top = HEAD + (told.length === 0 ? 0 : ((told.at(-1)?.line ?? 0) + 1) * LINE);
  // What tells of many columns takes its room, and nothing from the chart.
  const height = HEIGHT + Math.max(0, top - HEAD - LINE);
  const plot = plotOf(
    sheet,
    panel,
    { width: WIDTH - 2 * MARGIN, height: height - 10, top },
    measure,
  );
  const host = document.createElement('div');
  const root = createRoot(host);
  flushSync(() =>
    root.render(
      <svg
        xmlns="http://www.w3.org/2000/svg"
        viewBox={`0 0 ${WIDTH} ${height}`}
        width={WIDTH}
        height={height}
        fontFamily={FONT}
        fontSize={LETTERS}
      >
        <rect width={WIDTH} height={height} fill={ink('--color-base-100')} />
        <text x={MARGIN} y={30} fontSize={20} fontWeight={600} fill={ink('--color-base-content')}>
          {title}
        </text>
        <text x={MARGIN} y={52} fill={ink('--quiet')}>
          {time}
        </text>
        {told.map(({ of, x, line }) => (
          <g key={of.column} transform={`translate(${MARGIN + x} ${HEAD + line * LINE})`}>
            <path
              d={shapeAt(of.look.shape, 6, 6, 3.8)}
              fill={of.look.ring ? 'none' : ink(of.look.colour)}
              stroke={ink(of.look.colour)}
              strokeWidth={1.6}
            />
            <text x={16} y={10.5} fill={ink('--color-base-content')}>
              {of.name}
            </text>
          </g>
        ))}
        <g transform={`translate(${MARGIN} 0)`}>
          <Drawing plot={plot} ink={ink} letters={LETTERS} />
        </g>
      </svg>,
    ),
  );
  const svg = new XMLSerializer().serializeToString(host.firstElementChild as Element);
  root.unmount();
  return svg;
}

/** The same in points. */
export async function points(svg: string): Promise<Blob> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = image.width * SHARPER;
  canvas.height = image.height * SHARPER;
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((done, failed) =>
    canvas.toBlob((blob) =>
      blob ? done(blob) : failed(new Error('The browser could not draw the picture.')),
    ),
  );
}
