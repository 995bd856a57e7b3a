import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useEffect, useRef } from 'react';
import { useKeys } from '../lib/keys';

/** So many rows before the end the next ones are asked for. */
const AHEAD = 40;

/** A list of any length of which only what is seen is drawn; `j`, `k` and arrows go through it. */
export function KeyedList<T>(props: {
  label: string;
  rows: T[];
  /** All rows are so high, in pixels. */
  rowHeight: number;
  keyOf: (row: T) => string;
  selected: string | undefined;
  onSelect: (row: T) => void;
  /** Further keys of this list: which row one leads to. */
  onKey?: (key: string, at: number) => number | undefined;
  /** Asks for more rows; undefined when there are none. */
  onMore: (() => void) | undefined;
  children: (row: T, selected: boolean) => ReactNode;
}) {
  const { rows, keyOf, selected, onMore } = props;
  const viewport = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => viewport.current,
    estimateSize: () => props.rowHeight,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const lastSeen = items.at(-1)?.index ?? 0;

  useEffect(() => {
    if (onMore && lastSeen >= rows.length - AHEAD) {
      onMore();
    }
  }, [onMore, lastSeen, rows.length]);

  useKeys((event) => {
    // In a box that scrolls by itself the arrows scroll it.
    const elsewhere =
      event.target !== document.body && !viewport.current?.contains(event.target as Node);
    if (elsewhere && event.key.startsWith('Arrow')) {
      return;
    }
    const at = rows.findIndex((row) => keyOf(row) === selected);
    const next = stepOf(event.key, at, rows.length) ?? props.onKey?.(event.key, at);
    const row = next === undefined ? undefined : rows[next];
    if (row && next !== undefined) {
      event.preventDefault();
      props.onSelect(row);
      virtual.scrollToIndex(next);
    }
  });

  return (
    <div
      ref={viewport}
      className="min-h-0 grow overflow-y-auto"
      tabIndex={0}
      role="group"
      aria-label={props.label}
    >
      <ul className="relative" style={{ height: virtual.getTotalSize() }}>
        {items.map((item) => {
          const row = rows[item.index];
          return row === undefined ? null : (
            <li
              key={keyOf(row)}
              className="absolute inset-x-0 top-0 border-b border-base-300/70"
              style={{ height: props.rowHeight, transform: `translateY(${item.start}px)` }}
            >
              {props.children(row, keyOf(row) === selected)}
            </li>
          );
        })}
      </ul>
    </div>
  );
}

/** Where the keys of every list lead. */
function stepOf(key: string, at: number, length: number): number | undefined {
  switch (key) {
    case 'j':
    case 'ArrowDown':
      return Math.min(at + 1, length - 1);
    case 'k':
    case 'ArrowUp':
      return Math.max(at - 1, 0);
    default:
      return undefined;
  }
}
