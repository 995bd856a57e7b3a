import { useEffect, useRef } from 'react';
import type { FilterHelp } from './api';

/** What could stand where somebody writes. */
export function Proposals(props: {
  id: string;
  proposals: FilterHelp['proposals'];
  active: number;
  onChoose: (text: string) => void;
}) {
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    list.current?.children[props.active]?.scrollIntoView?.({ block: 'nearest' });
  }, [props.active]);
  return (
    <div
      ref={list}
      id={`${props.id}-list`}
      role="listbox"
      aria-label="What could stand here"
      className="absolute inset-x-0 top-full z-20 mt-1 max-h-72 overflow-y-auto rounded-box border border-base-300 bg-base-100 py-1 shadow-lg"
    >
      {props.proposals.map((one, i) => (
        // biome-ignore lint/a11y/useKeyWithClickEvents: the keys are those of the field
        <div
          key={one.text}
          id={`${props.id}-${i}`}
          role="option"
          tabIndex={-1}
          aria-selected={i === props.active}
          onMouseDown={(e) => e.preventDefault()}
          onClick={() => props.onChoose(one.text)}
          className={`flex cursor-pointer items-baseline gap-4 px-3 py-1 ${
            i === props.active ? 'bg-base-200' : 'hover:bg-base-200'
          }`}
        >
          <code className="min-w-36 shrink-0 truncate">{one.text.trim()}</code>
          <span className="min-w-0 truncate text-sm text-quiet">{one.meaning}</span>
        </div>
      ))}
    </div>
  );
}

/** What is wrong, with the word that it is about. */
export function Fault({
  text,
  fault,
}: {
  text: string;
  fault: { position: number; text: string };
}) {
  const before = text.slice(Math.max(0, fault.position - 24), fault.position);
  const word = /^("(?:[^"\\]|\\.)*"?|\S*)/.exec(text.slice(fault.position))?.[0] ?? '';
  return (
    <p role="alert" className="mt-1.5 text-sm text-error">
      <code className="mr-2 text-base-content">
        {fault.position > 24 ? '…' : ''}
        {before}
        <mark className="bg-error/20 text-error underline decoration-wavy">{word || '⌃'}</mark>
      </code>
      <span className="first-letter:uppercase">{fault.text}</span>
    </p>
  );
}
