import type { Changes } from '../api';
import { changeWords } from '../model';

/** What changed since the previous run, in words. */
export function ChangesLine({ changes }: { changes: Changes }) {
  const words = changeWords(changes);
  if (words.length === 0) {
    return <span className="text-quiet">nothing changed</span>;
  }
  return (
    <span>
      {words.map((word, i) => (
        <span key={word.change}>
          {i > 0 ? ', ' : ''}
          <span className={word.change === 'new failing' ? 'font-semibold text-failed' : ''}>
            {word.text}
          </span>
        </span>
      ))}
    </span>
  );
}
