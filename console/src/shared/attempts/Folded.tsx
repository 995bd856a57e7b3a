import { type ReactNode, useState } from 'react';
import { count } from '../lib/format';
import type { Fold } from './reading';

/** Lines; where they repeat themselves they stand once with their count until they are asked for. */
export function Folded<T>(props: { fold: Fold<T>; show: (lines: T[]) => ReactNode }) {
  const { lines, size } = props.fold;
  const [open, setOpen] = useState(false);
  if (lines.length === size) {
    return props.show(lines);
  }
  const times = `${count(lines.length / size)} times`;
  return (
    <div className="border-l-2 border-accent pl-2">
      {props.show(open ? lines : lines.slice(0, size))}
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="link-hover cursor-pointer font-sans text-sm text-quiet"
      >
        {open ? `${times}, fold` : `${size === 1 ? 'this line' : `these ${size} lines`} ${times}`}
      </button>
    </div>
  );
}
