import type { Schemas } from '../../../shared/api/client';
import { duration, plural } from '../../../shared/lib/format';

export type Ranked = Schemas['RankedTest'];

/** By which figures tests are listed. */
export const RANKS = [
  'costly',
  'slowing',
  'failing',
  'slowest',
  'newest',
  'missing',
  'steady',
] as const;

export type Rank = (typeof RANKS)[number];

export const RANK_WORDS: Record<Rank, string> = {
  costly: 'Costing most',
  slowing: 'Slower',
  failing: 'Failing most',
  slowest: 'Slowest',
  newest: 'Newest',
  missing: 'Not run lately',
  steady: 'Never failing',
};

/** As in “×1.5”. */
export function factor(test: Ranked): string {
  const before = Math.max(1, test.beforeMillis ?? 0);
  return `×${((test.millis ?? 0) / before).toFixed(1)}`;
}

/** The figure that ranks it, short. */
export function figure(test: Ranked, by: Rank): string {
  switch (by) {
    case 'slowing':
      return factor(test);
    case 'costly':
    case 'failing':
      return `${test.failed} of ${test.ran}`;
    case 'slowest':
      return duration(test.millis ?? 0);
    case 'newest':
      return test.firstRun === null ? '' : `#${test.firstRun}`;
    case 'missing':
      return plural(test.missing, 'run');
    default:
      return test.millis === null ? `${test.ran}` : duration(test.millis * test.weekly);
  }
}

/** What is known of it beside that, in a line. */
export function beside(test: Ranked, by: Rank): string {
  const ran = `failed in ${test.failed} of ${plural(test.ran, 'run')}`;
  const takes = test.millis === null ? '' : `, takes ${duration(test.millis)}`;
  switch (by) {
    case 'slowing':
      return `since #${test.slowerSince}: ${duration(test.beforeMillis ?? 0)}, now ${duration(
        test.millis ?? 0,
      )}; ${duration(test.weeklyCostMillis)} a week`;
    case 'costly':
      return `${plural(test.alone, 'run')} failed by it alone; ${duration(
        test.retriedMillis,
      )} for trying again`;
    case 'slowest':
      return `${test.weekly < 10 ? test.weekly.toFixed(1) : Math.round(test.weekly)} times a week`;
    case 'failing':
      return `failed in ${Math.round((100 * test.failed) / Math.max(1, test.ran))} % of its runs`;
    case 'missing':
      return `last in #${test.lastRun}`;
    case 'steady':
      return `${test.millis === null ? '' : 'a week; '}passed in all ${plural(test.ran, 'run')}`;
    default:
      return ran + takes;
  }
}
