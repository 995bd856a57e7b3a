import { plural } from '../../shared/lib/format';
import type { Suggestion } from '../../shared/triage/api';

/** Which groups of the desk are shown. */
export const SHOWS = ['unsorted', 'returned', 'mine', 'explained', 'tickets', 'all'] as const;

export type Show = (typeof SHOWS)[number];

/** How far back, in days; 0 for all time. */
export const SPANS = [1, 7, 30, 90, 0] as const;

export type Span = (typeof SPANS)[number];

const USUAL: Span = 7;

/** What the address of the desk says. */
export interface DeskSearch {
  show?: Show | undefined;
  days?: Span | undefined;
  group?: number | undefined;
  filter?: string | undefined;
}

export function readDeskSearch(search: { [key: string]: unknown } | DeskSearch): DeskSearch {
  const read: DeskSearch = {};
  const show = SHOWS.find((one) => one === search.show);
  if (show) read.show = show;
  const days = SPANS.find((one) => one === search.days);
  if (days !== undefined) read.days = days;
  if (Number.isInteger(search.group) && Number(search.group) > 0) {
    read.group = Number(search.group);
  }
  if (typeof search.filter === 'string' && search.filter.trim() !== '') {
    read.filter = search.filter;
  }
  return read;
}

/** What the address of the rules says: the one that is looked at, or that a new one is written. */
export interface RulesSearch {
  rule?: number | 'new' | undefined;
}

export function readRulesSearch(search: { [key: string]: unknown } | RulesSearch): RulesSearch {
  const rule = search.rule;
  return rule === 'new' || (Number.isInteger(rule) && Number(rule) > 0)
    ? { rule: rule === 'new' ? rule : Number(rule) }
    : {};
}

export function shownOf(search: DeskSearch): Show {
  return search.show ?? 'unsorted';
}

export function spanOf(search: DeskSearch): Span {
  return search.days ?? USUAL;
}

export function spanWords(span: Span): string {
  switch (span) {
    case 0:
      return 'all time';
    case 1:
      return 'the last day';
    default:
      return `the last ${span} days`;
  }
}

/** As in “571 of 595 failures are explained, by 12 decisions”. */
export function savedWords(sums: {
  open: number;
  results: number;
  decisions: number;
  single: number;
}): { explained: number; decisions: number } {
  return { explained: sums.results - sums.open, decisions: sums.decisions + sums.single };
}

/** Without what is as usual, so that addresses stay short. */
export function cleaned(search: DeskSearch): DeskSearch {
  const next: DeskSearch = {};
  if (search.show && search.show !== 'unsorted') next.show = search.show;
  if (search.days !== undefined && search.days !== USUAL) next.days = search.days;
  if (search.group) next.group = search.group;
  return next;
}

/** The list with one moved by a step. */
export function moved(ids: number[], id: number, step: -1 | 1): number[] {
  const at = ids.indexOf(id);
  const to = at + step;
  if (at < 0 || to < 0 || to >= ids.length) {
    return ids;
  }
  const next = ids.filter((one) => one !== id);
  next.splice(to, 0, id);
  return next;
}

/** With it, or without it where it was there. */
export function toggled(marks: readonly number[], one: number): number[] {
  return marks.includes(one) ? marks.filter((mark) => mark !== one) : [...marks, one];
}

/** How often what is suggested was what people then said. */
export function experience(suggestion: Suggestion): string {
  const { right, of } = suggestion;
  return of === 0
    ? `${suggestion.strength} likeness, not tried before`
    : `right ${right} of ${plural(of, 'time')} at such likeness`;
}

/** What speaks for a suggestion. */
export function reasons({ like }: Suggestion): string {
  return [
    `${Math.round(like.likeness * 100)} % the same words`,
    like.sameTests > 0 ? `${plural(like.sameTests, 'test')} in both` : '',
    like.sameRuns > 0 ? `${plural(like.sameRuns, 'run')} with both` : '',
    like.words.length > 0 ? `both say ${like.words.join(', ')}` : '',
  ]
    .filter((one) => one !== '')
    .join(', ');
}
