import { BarChart, LineChart } from 'echarts/charts';
import {
  GridComponent,
  LegendComponent,
  TitleComponent,
  TooltipComponent,
} from 'echarts/components';
import { init, use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import type { Sheet } from '../../../shared/sheets/api';
import { optionOf } from '../../../shared/sheets/option';
import type { Panel } from '../api';

use([
  BarChart,
  LineChart,
  GridComponent,
  LegendComponent,
  TitleComponent,
  TooltipComponent,
  SVGRenderer,
]);

const WIDTH = 960;
const HEIGHT = 480;
/** Twice as many points each way, for slides. */
const SHARPER = 2;
// In single quotes: it stands in an attribute.
const FONT = "'Source Sans 3 Variable', 'Source Sans 3', 'Segoe UI', Helvetica, Arial, sans-serif";

/** A chart as a drawing of its own, with its title and time, on the ground of the theme. */
export function drawing(sheet: Sheet, panel: Panel, title: string, time: string): string {
  const style = getComputedStyle(document.documentElement);
  const ink = (name: string) => style.getPropertyValue(name).trim();
  const chart = init(null, undefined, {
    renderer: 'svg',
    ssr: true,
    width: WIDTH,
    height: HEIGHT,
  });
  const option = optionOf(sheet, panel.kind, panel.step, ink);
  const legend = option.legend as object | undefined;
  chart.setOption({
    ...option,
    backgroundColor: ink('--color-base-100'),
    textStyle: { fontFamily: FONT },
    title: {
      text: title,
      subtext: time,
      left: 12,
      top: 10,
      textStyle: { color: ink('--color-base-content'), fontFamily: FONT, fontSize: 20 },
      subtextStyle: { color: ink('--quiet'), fontFamily: FONT, fontSize: 13 },
    },
    legend: legend ? { ...legend, top: 66, left: 12 } : undefined,
    grid: { left: 16, right: 24, top: legend ? 104 : 76, bottom: 16, containLabel: true },
  });
  const svg = chart.renderToSVGString();
  chart.dispose();
  return svg.replaceAll('font-family:inherit', `font-family:${FONT}`);
}

/** The same in points. */
export async function points(svg: string): Promise<Blob> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = WIDTH * SHARPER;
  canvas.height = HEIGHT * SHARPER;
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((done, failed) =>
    canvas.toBlob((blob) =>
      blob ? done(blob) : failed(new Error('The browser could not draw the picture.')),
    ),
  );
}
