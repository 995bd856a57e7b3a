import type { Category } from './api';

/** The categories that may be chosen, with the digits that choose them. */
export function choices(categories: Category[] | undefined): { digit: string; name: string }[] {
  return (categories ?? [])
    .filter((one) => !one.retired)
    .slice(0, 9)
    .map((one, i) => ({ digit: String(i + 1), name: one.name }));
}
