import type { Category, GroupInRun } from '../../../shared/triage/api';

/** Whether a group is called by its error, which has holes; else by a sentence. */
export function isNamedByError(group: GroupInRun): boolean {
  return group.keyKind !== 'environment' && firstLine(group) !== undefined;
}

/** What a group is called: the fault of the environment, or the first line of its error. */
export function title(group: GroupInRun): string {
  const error = isNamedByError(group) ? firstLine(group) : undefined;
  return error ?? capital(group.sentence.replaceAll('`', ''));
}

/** The error, where the title does not tell it. */
export function errorBeside(group: GroupInRun): string | undefined {
  return isNamedByError(group) ? undefined : firstLine(group);
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
