import type { Schemas } from '../api/client';
import { plural } from '../lib/format';

export type Quarantine = Schemas['Quarantine'];

/** Where it stands, in a few words. */
export function standingWords(one: Quarantine): string {
  switch (one.standing) {
    case 'over':
      return `over since ${one.until}, failures count`;
    case 'clean':
      return 'could come back';
    case 'gone':
      return 'no longer run';
    case 'ended':
      return `ended by ${one.endedBy}`;
    default:
      return `until ${one.until}`;
  }
}

/** What its test did since. */
export function didWords(one: Quarantine): string {
  if (one.ran === 0) {
    return 'no run has had it since';
  }
  const rest = one.clean > 0 && one.clean < one.ran ? `, the latest ${one.clean} passed` : '';
  return `failed in ${one.failed} of ${plural(one.ran, 'run')} since${rest}`;
}

export const STANDING_COLOURS: Record<Quarantine['standing'], string> = {
  holds: 'text-quiet',
  ending: 'font-semibold text-errored',
  over: 'font-semibold text-failed',
  clean: 'font-semibold text-passed',
  gone: 'text-quiet',
  ended: 'text-quiet',
};
