import { Link } from '@tanstack/react-router';
import { OutcomeGlyph } from '../../../shared/ui/OutcomeGlyph';
import type { RunPoint } from '../api';
import { runTitle, worst } from '../model';

/** The last runs of a stream as glyphs, the newest at the right; each leads to its run. */
export function RunStrip(props: {
  project: string;
  stream: string;
  points: RunPoint[];
  current?: number;
}) {
  return (
    <ol aria-label="The last runs, the newest last" className="flex flex-wrap items-center">
      {props.points.map((point) => (
        <li key={point.number}>
          <Link
            to="/$project/runs/$"
            params={{ project: props.project, _splat: `${props.stream}/${point.number}` }}
            title={runTitle(point)}
            aria-label={`Run ${runTitle(point)}`}
            className={`flex h-6 w-[15px] items-center justify-center rounded-sm hover:bg-base-300 ${
              point.number === props.current ? 'bg-base-300' : ''
            }`}
          >
            <OutcomeGlyph outcome={worst(point.counts)} size={11} />
          </Link>
        </li>
      ))}
    </ol>
  );
}
