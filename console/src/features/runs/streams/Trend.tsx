import { count } from '../../../shared/lib/format';
import type { RunPoint } from '../api';

const WIDTH = 640;
const HEIGHT = 120;
const TOP = 8;
const BOTTOM = 20;

/** All runs from the very first: how many tests there were, and how many of them failed. */
export function Trend({ points }: { points: RunPoint[] }) {
  const first = points[0];
  const last = points.at(-1);
  if (!first || !last || points.length < 2) {
    return <p className="text-quiet">A trend needs two runs.</p>;
  }
  const most = Math.max(1, ...points.map((p) => p.counts.tests));
  const mostFailing = Math.max(0, ...points.map(failing));
  const x = (at: number) => (at / (points.length - 1)) * WIDTH;
  const y = (n: number) => TOP + (1 - n / most) * (HEIGHT - TOP - BOTTOM);
  const floor = HEIGHT - BOTTOM;
  const area = (value: (p: RunPoint) => number) =>
    `M0 ${floor}${points.map((p, at) => `L${x(at)} ${y(value(p))}`).join('')}L${WIDTH} ${floor}Z`;
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        preserveAspectRatio="none"
        className="h-32 w-full"
        role="img"
        aria-label={`From run ${first.number} to ${last.number}: up to ${most} tests, at most ${mostFailing} failing, ${failing(last)} failing now`}
      >
        <path d={area((p) => p.counts.tests)} className="fill-passed/15" />
        <path
          d={`M${points.map((p, at) => `${x(at)} ${y(p.counts.tests)}`).join('L')}`}
          className="fill-none stroke-passed"
          strokeWidth="1.5"
          vectorEffect="non-scaling-stroke"
        />
        <path d={area(failing)} className="fill-failed" />
        <line
          x1="0"
          x2={WIDTH}
          y1={floor}
          y2={floor}
          className="stroke-base-300"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <figcaption className="-mt-4 flex justify-between text-sm text-quiet tabular-nums">
        <span>#{first.number}</span>
        <span>
          <span className="text-passed">{count(last.counts.tests)} tests</span> now,{' '}
          <span className="text-failed">{count(mostFailing)} failing</span> at most
        </span>
        <span>#{last.number}</span>
      </figcaption>
    </figure>
  );
}

function failing(point: RunPoint): number {
  return point.counts.failed + point.counts.errored + point.counts.setUps;
}
