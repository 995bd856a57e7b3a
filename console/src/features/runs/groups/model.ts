import type { Category, GroupInRun } from '../../../shared/triage/api';

/** What a group is called: the fault of the environment, or the first line of its error. */
export function title(group: GroupInRun): string {
  const first = firstLine(group);
  return group.keyKind === 'environment' || first === undefined
    ? capital(group.sentence.replaceAll('`', ''))
    : first;
}

/** What is told of it beside its title. */
export function subtitle(group: GroupInRun): string {
  const told = group.keyKind === 'environment' ? firstLine(group) : undefined;
  return told ?? group.sentence.replaceAll('`', '');
}

function firstLine(group: GroupInRun): string | undefined {
  return group.template
    .split('\n')
    .find((line) => /\p{L}/u.test(line))
    ?.trim();
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** The categories that may be chosen, with the digits that choose them. */
export function choices(categories: Category[] | undefined): { digit: string; name: string }[] {
  return (categories ?? [])
    .filter((one) => !one.retired)
    .slice(0, 9)
    .map((one, i) => ({ digit: String(i + 1), name: one.name }));
}
