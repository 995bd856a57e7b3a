import { isOutcome, OutcomeGlyph } from '../../ui/OutcomeGlyph';
import { type Look, shapeAt } from './looks';
import type { Named } from './plot';

/** What the marks of a chart tell of; each can be left out, and brought back. */
export function Legend(props: {
  all: Named[];
  hidden: ReadonlySet<number>;
  onChange: (hidden: ReadonlySet<number>) => void;
}) {
  const { all, hidden } = props;
  const turn = (column: number) => {
    const next = new Set(hidden);
    if (!next.delete(column)) next.add(column);
    // Nothing at all shows nothing: then everything is back.
    props.onChange(next.size === all.length ? new Set() : next);
  };
  return (
    <ul className="flex max-h-13 shrink-0 flex-wrap gap-x-3 overflow-y-auto text-[13px] print:max-h-none [.on-paper_&]:max-h-none">
      {all.map((one) => (
        <li key={one.column} className="max-w-full min-w-0">
          <button
            type="button"
            aria-pressed={!hidden.has(one.column)}
            title={`${hidden.has(one.column) ? 'Show' : 'Leave out'} ${one.name}`}
            className={`flex max-w-full cursor-pointer items-center gap-1 leading-[1.375rem] ${
              hidden.has(one.column) ? 'text-quiet line-through' : ''
            }`}
            onClick={() => turn(one.column)}
          >
            <Sign of={one} />
            <span className="truncate">{one.name}</span>
          </button>
        </li>
      ))}
    </ul>
  );
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
