import { useMemo, useState } from 'react';
import { isOutcome, OutcomeGlyph } from '../../ui/OutcomeGlyph';
import { type Look, shapeAt } from './looks';
import { inLines, measured, type Named } from './plot';

/** Further lines are told when somebody asks, and on paper. */
const LINES = 2;
const BESIDE = 28;
/** For the word that there are more. */
const MORE = 62;
const letters = measured(13);

/** What the marks of a chart tell of; each can be left out, and brought back. */
export function Legend(props: {
  all: Named[];
  hidden: ReadonlySet<string>;
  /** In pixels; undefined while it is not known. */
  width: number | undefined;
  onChange: (hidden: ReadonlySet<string>) => void;
}) {
  const { all, hidden, width } = props;
  const [whole, setWhole] = useState(false);
  const fitting = useMemo(() => seen(all, width), [all, width]);
  const turn = (id: string) => {
    const next = new Set(hidden);
    if (!next.delete(id)) next.add(id);
    // Nothing at all shows nothing: then everything is back.
    props.onChange(all.every((one) => next.has(one.id)) ? new Set() : next);
  };
  return (
    <ul className="flex shrink-0 flex-wrap gap-x-3 text-[13px] leading-[1.375rem]">
      {all.map((one, i) => (
        <li
          key={one.column}
          className={`max-w-full min-w-0 ${whole || i < fitting ? '' : 'hidden print:block [.on-paper_&]:block'}`}
        >
          <button
            type="button"
            aria-pressed={!hidden.has(one.id)}
            title={`${hidden.has(one.id) ? 'Show' : 'Leave out'} ${one.name}`}
            className={`flex max-w-full cursor-pointer items-center gap-1 ${
              hidden.has(one.id) ? 'text-quiet line-through' : ''
            }`}
            onClick={() => turn(one.id)}
          >
            <Sign of={one} />
            <span className="truncate">{one.name}</span>
          </button>
        </li>
      ))}
      {fitting < all.length ? (
        <li className="print:hidden [.on-wall_&]:hidden">
          <button
            type="button"
            aria-expanded={whole}
            className="cursor-pointer text-quiet underline decoration-base-300 underline-offset-2"
            onClick={() => setWhole(!whole)}
          >
            {whole ? 'fewer' : `${all.length - fitting} more`}
          </button>
        </li>
      ) : null}
    </ul>
  );
}

/** How many are seen at first. */
function seen(all: Named[], width: number | undefined): number {
  if (width === undefined) {
    return all.length;
  }
  const lines = inLines(all, letters, BESIDE, width + 12);
  const fit = lines.filter((one) => one.line < LINES);
  if (fit.length === all.length) {
    return all.length;
  }
  // The last one makes room for the word that there are more.
  const last = fit.at(-1);
  const end = last ? last.x + letters(last.of.name) + BESIDE : 0;
  return Math.max(1, end + MORE > width ? fit.length - 1 : fit.length);
}

function Sign({ of }: { of: Named }) {
  return isOutcome(of.key) ? (
    <OutcomeGlyph outcome={of.key} size={12} />
  ) : (
    <svg width={12} height={12} aria-hidden className="shrink-0">
      <Shape look={of.look} x={6} y={6} colour={`var(${of.look.colour})`} />
    </svg>
  );
}

function Shape(props: { look: Look; x: number; y: number; colour: string }) {
  return (
    <path
      d={shapeAt(props.look.shape, props.x, props.y, 3.6)}
      fill={props.look.ring ? 'none' : props.colour}
      stroke={props.colour}
      strokeWidth={1.6}
    />
  );
}
