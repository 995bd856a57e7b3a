import { Check, Copy, X } from 'lucide-react';
import { useState } from 'react';
import { copyText } from '../lib/clipboard';

type State = 'ready' | 'copied' | 'failed';

const WORDS: Record<State, string> = {
  ready: 'copy',
  copied: 'copied',
  failed: 'not allowed by the browser',
};

/** Copies a text and says whether that went well. */
export function CopyButton({ text, what }: { text: string; what: string }) {
  const [state, setState] = useState<State>('ready');
  const copy = async () => {
    setState((await copyText(text)) ? 'copied' : 'failed');
    setTimeout(() => setState('ready'), 1500);
  };
  const Icon = { ready: Copy, copied: Check, failed: X }[state];
  return (
    <button
      type="button"
      className="btn btn-ghost btn-xs gap-1 font-normal text-quiet"
      onClick={copy}
      aria-label={`Copy ${what}`}
    >
      <Icon size={13} aria-hidden />
      <span aria-live="polite">{WORDS[state]}</span>
    </button>
  );
}
