import { count, plural } from '../../../shared/lib/format';
import type { Draft, Rule, RuleTrial } from './api';

/** On so many of the latest runs with failures a rule is tried. */
export const TRIED_ON = [5, 20, 50, 100] as const;

export const NEW: Draft = {
  name: '',
  filter: '',
  pattern: '',
  category: '',
  comment: '',
  on: true,
};

export function draftOf(rule: Rule): Draft {
  return {
    name: rule.name,
    filter: rule.filter,
    pattern: rule.pattern,
    category: rule.category,
    comment: rule.comment ?? '',
    on: rule.on,
  };
}

/** Whether something was written that is not kept. */
export function differs(draft: Draft, rule: Rule | undefined): boolean {
  const before = rule === undefined ? NEW : draftOf(rule);
  return (Object.keys(before) as (keyof Draft)[]).some((key) => before[key] !== draft[key]);
}

/** What keeps it from being tried; undefined for nothing. */
export function untried(draft: Draft): string | undefined {
  return draft.filter.trim() === '' && draft.pattern === ''
    ? 'Write a filter or a pattern, and see here what it would explain.'
    : undefined;
}

/** What keeps it from being kept; undefined for nothing. */
export function lacks(draft: Draft): string | undefined {
  if (untried(draft)) return 'It needs a filter or a pattern.';
  if (draft.category === '') return 'It needs a category.';
  if (draft.name.trim() === '') return 'It needs a name.';
  return undefined;
}

/** A rule in its list: what it asks. */
export function condition(rule: { filter: string; pattern: string }): string {
  if (rule.filter === '' || rule.pattern === '') {
    return rule.pattern === '' ? rule.filter : `/${rule.pattern}/`;
  }
  return `(${rule.filter}) and /${rule.pattern}/`;
}

/** What a trial came to, in a sentence. */
export function verdict(trial: RuleTrial): string {
  if (trial.failures === 0) {
    return 'There are no failures yet to try it on.';
  }
  const among = `of ${plural(trial.failures, 'failure')} in ${plural(trial.runs, 'run')}`;
  if (trial.fits === 0) {
    return `It fits none ${among}.`;
  }
  const fits = `It fits ${count(trial.fits)} ${among}`;
  return trial.would === 0
    ? `${fits}, and would explain none that is not explained.`
    : `${fits}, and would explain ${count(trial.would)} that nobody explained.`;
}

/** Whether it catches so much that it is more likely a mistake. */
export function isWide(trial: RuleTrial): boolean {
  return trial.failures >= 10 && trial.fits >= 0.8 * trial.failures;
}

/** Results that fit and were explained in another way than the rule would, by their categories. */
export function disagreeing(trial: RuleTrial, category: string): [string, number][] {
  const sums = new Map<string, number>();
  for (const one of trial.said) {
    if (!one.ownRule && category !== '' && one.category !== category) {
      sums.set(one.category, (sums.get(one.category) ?? 0) + one.results);
    }
  }
  return [...sums];
}
