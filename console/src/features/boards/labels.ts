import { quote } from '../../shared/filter/terms';
import type { Panel } from './types';

const TERM = /^label\.([A-Za-z][\w-]*) eq ("(?:[^"\\]|\\.)*")$/;

function read(term: string): { key: string; value: string } | undefined {
  const found = term.match(TERM);
  if (!found?.[1] || !found[2]) {
    return undefined;
  }
  try {
    return { key: found[1], value: String(JSON.parse(found[2])) };
  } catch {
    return undefined;
  }
}

/** The labels that a board can be switched by, without any twice: those of its panels come first. */
export function labelsOf(
  panels: readonly Panel[],
  terms: readonly string[],
  added: readonly string[],
): string[] {
  const told = panels
    .flatMap((panel) => panel.by)
    .flatMap((by) => by.match(/^label\.([A-Za-z][\w-]*)$/)?.[1] ?? []);
  const chosen = terms.flatMap((term) => read(term)?.key ?? []);
  return [...new Set([...told, ...chosen, ...added])];
}

/** To which value a filter’s terms switch a label; undefined when to none. */
export function chosenOf(terms: readonly string[], key: string): string | undefined {
  return terms.map(read).find((one) => one?.key === key)?.value;
}

/** The terms with a label switched to a value, or to all of them; whatever else they ask stays. */
export function switched(
  terms: readonly string[],
  key: string,
  value: string | undefined,
): string[] {
  const at = terms.findIndex((term) => read(term)?.key === key);
  const term = value === undefined ? [] : [`label.${key} eq ${quote(value)}`];
  return at < 0 ? [...terms, ...term] : [...terms.slice(0, at), ...term, ...terms.slice(at + 1)];
}
