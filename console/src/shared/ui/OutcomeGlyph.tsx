import type { ReactNode } from 'react';

export type Outcome = 'passed' | 'failed' | 'errored' | 'skipped' | 'not reached';

/** In the order in which people look at them. */
export const OUTCOMES: readonly Outcome[] = [
  'failed',
  'errored',
  'skipped',
  'not reached',
  'passed',
];

const COLOURS: Record<Outcome, string> = {
  passed: 'text-passed',
  failed: 'text-failed',
  errored: 'text-errored',
  skipped: 'text-slate',
  'not reached': 'text-slate',
};

const SHAPES: Record<Outcome, ReactNode> = {
  passed: <circle cx="8" cy="8" r="3.6" fill="currentColor" />,
  failed: <path d="M8 1.6 14.4 8 8 14.4 1.6 8Z" fill="currentColor" />,
  errored: <path d="M8 2 14.8 14H1.2Z" fill="currentColor" />,
  skipped: <circle cx="8" cy="8" r="4.6" fill="none" stroke="currentColor" strokeWidth="1.8" />,
  'not reached': (
    <circle
      cx="8"
      cy="8"
      r="5"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.8"
      strokeDasharray="3.2 2.1"
    />
  ),
};

export function isOutcome(word: string): word is Outcome {
  return (OUTCOMES as readonly string[]).includes(word);
}

/** An outcome from the API; what the console does not know yet counts as errored. */
export function asOutcome(word: string): Outcome {
  return isOutcome(word) ? word : 'errored';
}

export function outcomeColour(outcome: Outcome): string {
  return COLOURS[outcome];
}

/** Shape and colour of an outcome; without `label` the text beside it tells. */
export function OutcomeGlyph(props: { outcome: Outcome; label?: boolean; size?: number }) {
  const size = props.size ?? 14;
  return (
    <svg
      viewBox="0 0 16 16"
      width={size}
      height={size}
      className={`inline-block shrink-0 ${COLOURS[props.outcome]}`}
      {...(props.label
        ? { role: 'img', 'aria-label': props.outcome }
        : { 'aria-hidden': true as const })}
    >
      {SHAPES[props.outcome]}
    </svg>
  );
}
