import type { ReactNode } from 'react';
import { count } from '../lib/format';

/** Kinds with their counts, of which some can be chosen; nothing where there is one kind only. */
export function Choice<K extends string>(props: {
  what: string;
  counts: Map<K, number>;
  chosen: readonly K[];
  onChoose: (chosen: K[]) => void;
  word: (kind: K) => ReactNode;
}) {
  const { counts, chosen } = props;
  // What is chosen stays in sight where there is none of it: somebody came from another result.
  const kinds = [...counts.keys(), ...chosen.filter((kind) => !counts.has(kind))];
  if (kinds.length < 2 && chosen.length === 0) {
    return null;
  }
  return (
    <fieldset className="flex flex-wrap items-center gap-0.5">
      <legend className="sr-only">{props.what}</legend>
      {kinds.map((kind) => {
        const on = chosen.includes(kind);
        return (
          <button
            key={kind}
            type="button"
            aria-pressed={on}
            onClick={() =>
              props.onChoose(on ? chosen.filter((other) => other !== kind) : [...chosen, kind])
            }
            className={`btn btn-xs gap-1 font-normal tabular-nums ${on ? 'btn-neutral' : 'btn-ghost'}`}
          >
            {count(counts.get(kind) ?? 0)} {props.word(kind)}
          </button>
        );
      })}
    </fieldset>
  );
}
