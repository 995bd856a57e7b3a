import type { Said } from './api';

/** How an explanation came: as in “by ada”, “by the rule “gateway””, “carried”. */
export function saidBy(said: Said): string {
  switch (said.origin) {
    case 'hand':
      return `by ${said.by}`;
    case 'rule':
      return `by the rule “${said.by}”`;
    default:
      return said.origin;
  }
}
