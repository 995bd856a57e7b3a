import type { LongText } from './types';

/** Of a text that is cut: how much there is, and the way to all of it. */
export function WholeLink({ text, onWhole }: { text: LongText | null; onWhole: () => void }) {
  return text?.cut ? (
    <p className="mt-1 text-sm">
      The first {text.text.length.toLocaleString('en')} of {text.length.toLocaleString('en')}{' '}
      characters.{' '}
      <button type="button" className="link" onClick={onWhole}>
        Show all of it
      </button>
    </p>
  ) : null;
}
