import { OutcomeGlyph } from '../../../shared/ui/OutcomeGlyph';
import { Cell } from './Cell';

const SIGNS: [string, string][] = [
  ['+', 'passed'],
  ['r', 'passed when tried again'],
  ['F', 'failed'],
  ['E', 'errored'],
  ['s', 'skipped'],
];

/** What the signs mean. */
export function Legend() {
  return (
    <ul className="flex flex-wrap gap-x-4 gap-y-1 text-[13px] text-quiet">
      {SIGNS.map(([sign, word]) => (
        <li key={sign} className="flex items-center gap-1.5">
          <svg viewBox="0 0 10 16" width="10" height="16" aria-hidden>
            <Cell sign={sign} cx={5} />
          </svg>
          {word}
        </li>
      ))}
      <li className="flex items-center gap-1.5">
        <OutcomeGlyph outcome="not reached" size={10} />
        not reached
      </li>
    </ul>
  );
}
