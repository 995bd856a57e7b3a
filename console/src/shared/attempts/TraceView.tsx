import { useState } from 'react';
import type { Schemas } from '../api/client';
import { plural } from '../lib/format';
import { useLook } from './look';

type Block = Schemas['TraceBlock'];

/** A trace with own frames raised and the frames of frameworks folded away. */
export function TraceView({ blocks }: { blocks: Block[] }) {
  return (
    <div
      role="group"
      aria-label="Trace"
      tabIndex={0}
      className="mt-1 overflow-x-auto rounded-box border border-base-300 py-2 font-mono text-[12.5px] leading-6 [font-variant-ligatures:none]"
    >
      {blocks.map((block, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: blocks are known by their place
        <BlockView key={i} block={block} />
      ))}
    </div>
  );
}

function BlockView({ block }: { block: Block }) {
  const [open, setOpen] = useState(false);
  const { find } = useLook().look;
  const found = find !== '' && block.lines.join('\n').toLowerCase().includes(find.toLowerCase());
  if (block.kind === 'framework' && !open && !found) {
    return (
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="block w-full cursor-pointer px-4 text-left text-quiet hover:bg-base-200"
      >
        … {plural(block.lines.length, 'framework frame')}
      </button>
    );
  }
  const style =
    block.kind === 'own'
      ? 'border-l-4 border-accent bg-base-200 pl-3 font-semibold'
      : block.kind === 'framework'
        ? 'pl-4 text-quiet'
        : 'pl-4';
  return <pre className={`pr-4 text-[length:inherit] ${style}`}>{block.lines.join('\n')}</pre>;
}
