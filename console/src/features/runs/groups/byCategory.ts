import type { GroupInRun } from '../../../shared/triage/api';

/** In place of a category: what nobody explained. No category can be called so. */
export const UNSORTED = '';

/** How many results of a run are what, the most first; unsorted ones before all. */
export function byCategory(groups: GroupInRun[]): { category: string; results: number }[] {
  const shares = new Map<string, number>();
  const add = (category: string, results: number) =>
    results > 0 && shares.set(category, (shares.get(category) ?? 0) + results);
  for (const group of groups) {
    add(UNSORTED, group.open);
    add(group.said?.category ?? UNSORTED, group.results - group.open);
  }
  return [...shares]
    .map(([category, results]) => ({ category, results }))
    .sort(
      (a, b) =>
        Number(b.category === UNSORTED) - Number(a.category === UNSORTED) ||
        b.results - a.results ||
        a.category.localeCompare(b.category),
    );
}

/** Whether some of its results are that. */
export function isOf(group: GroupInRun, category: string): boolean {
  return category === UNSORTED
    ? group.open > 0
    : group.said?.category === category && group.results > group.open;
}
