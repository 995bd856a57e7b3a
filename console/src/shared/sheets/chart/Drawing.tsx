import { Fragment, memo, useId } from 'react';
import { round, shapeAt } from './looks';
import type { Marks, Plot } from './plot';

/** What a colour of the theme is here: its name on a page, itself in a file. */
export type Ink = (name: string) => string;

const POINT = 3.4;
const ALONE = 2.2;

/** The drawing of a chart, without what tells of its columns. Texts have the size of its letters. */
export const Drawing = memo(function Drawing(props: { plot: Plot; ink: Ink; letters: number }) {
  const { plot, ink } = props;
  const { field } = plot;
  const id = useId().replaceAll(/[^A-Za-z0-9]/g, '');
  return (
    <>
      <defs>
        <clipPath id={`${id}field`}>
          <rect
            x={field.left}
            y={field.top - 1}
            width={field.right - field.left}
            height={field.bottom - field.top + 2}
          />
        </clipPath>
        {plot.marks.map((one) =>
          one.look.pattern !== 'plain' && one.bars.length > 0 ? (
            <Pattern key={one.column} id={`${id}${one.column}`} of={one} ink={ink} />
          ) : null,
        )}
      </defs>
      {plot.rules.map((rule) => (
        <Fragment key={rule.y}>
          <path
            d={`M${field.left} ${rule.y}H${field.right}`}
            stroke={ink('--color-base-300')}
            shapeRendering="crispEdges"
          />
          <text x={field.left - 6} y={rule.y + 4} textAnchor="end" fill={ink('--quiet')}>
            {rule.text}
          </text>
        </Fragment>
      ))}
      {plot.names.map((name) => (
        <text
          key={name.x}
          x={name.x}
          y={round(field.bottom + 6 + props.letters)}
          textAnchor="middle"
          fill={ink('--quiet')}
        >
          {name.text}
        </text>
      ))}
      {plot.shifts.map((one) => (
        <path
          key={`${one.column} ${one.row}`}
          data-shift={one.row}
          d={`M${one.x} ${field.top - 6}V${field.bottom}`}
          stroke={ink(one.look.colour)}
          strokeDasharray="3 3"
        />
      ))}
      {plot.marks.map((one) => (
        <Column key={one.column} of={one} id={id} ink={ink} step={plot.step} />
      ))}
    </>
  );
});

function Column(props: { of: Marks; id: string; ink: Ink; step: number }) {
  const { of, ink } = props;
  const colour = ink(of.look.colour);
  const fill = of.look.pattern === 'plain' ? colour : `url(#${props.id}${of.column})`;
  const dots = of.dotted ? of.points : alone(of);
  const r = of.dotted ? Math.min(POINT, Math.max(ALONE, props.step / 4)) : ALONE;
  return (
    <g data-of={of.head.key}>
      {of.band === '' ? null : (
        <path d={of.band} fill={colour} opacity={0.13} clipPath={`url(#${props.id}field)`} />
      )}
      {/* All of them at once: hundreds of elements of their own take the browser its time. */}
      {of.bars.length === 0 ? null : (
        <path
          d={of.bars.map((b) => `M${b.x} ${b.y}h${b.width}v${b.height}h${-b.width}Z`).join('')}
          fill={fill}
        />
      )}
      {of.line === '' ? null : (
        <path d={of.line} fill="none" stroke={colour} strokeWidth={2} strokeLinejoin="round" />
      )}
      {dots.length === 0 ? null : (
        <path
          d={dots.map((dot) => shapeAt(of.look.shape, dot.x, dot.y, r)).join('')}
          fill={of.look.ring ? ink('--color-base-100') : colour}
          stroke={colour}
          strokeWidth={1.6}
        />
      )}
    </g>
  );
}

/** Points that no line goes to: without a mark of their own they were not seen. */
function alone(of: Marks): Marks['points'] {
  const rows = new Set(of.points.map((point) => point.row));
  return of.points.filter(({ row }) => !rows.has(row - 1) && !rows.has(row + 1));
}

/** What tells bars apart where colours do not. */
function Pattern(props: { id: string; of: Marks; ink: Ink }) {
  const { of, ink } = props;
  const light = ink('--color-base-100');
  const [size, over] = OVER[of.look.pattern] ?? [6, ''];
  return (
    <pattern id={props.id} width={size} height={size} patternUnits="userSpaceOnUse">
      <path d={`M0 0H${size}V${size}H0Z`} fill={ink(of.look.colour)} />
      {over === '' ? null : (
        <path d={over} stroke={light} strokeWidth={1.1} fill="none" opacity={0.75} />
      )}
    </pattern>
  );
}

const OVER: Record<string, [number, string]> = {
  stripes: [6, 'M-1.5 1.5L1.5 -1.5M0 6L6 0M4.5 7.5L7.5 4.5'],
  peaks: [6, 'M0.8 4.6L3 1.4L5.2 4.6'],
  dots: [5, 'M1.5 2.5H3.5'],
  rules: [4, 'M0 2H4'],
};
