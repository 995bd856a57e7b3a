import { Check, Copy } from 'lucide-react';
import { useState } from 'react';

/** Copies a text and says so. */
export function CopyButton({ text, what }: { text: string; what: string }) {
  const [copied, setCopied] = useState(false);
  const copy = async () => {
    await navigator.clipboard.writeText(text);
    setCopied(true);
    setTimeout(() => setCopied(false), 1500);
  };
  return (
    <button
      type="button"
      className="btn btn-ghost btn-xs gap-1 font-normal text-quiet"
      onClick={copy}
      aria-label={`Copy ${what}`}
    >
      {copied ? <Check size={13} aria-hidden /> : <Copy size={13} aria-hidden />}
      <span aria-live="polite">{copied ? 'copied' : 'copy'}</span>
    </button>
  );
}
