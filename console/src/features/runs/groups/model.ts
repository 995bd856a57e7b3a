import type { Category, GroupInRun } from '../../../shared/triage/api';

/** What a group is called: the first line of its error, or why it is one. */
export function title(group: GroupInRun): string {
  const first = group.template.split('\n').find((line) => /\p{L}/u.test(line));
  if (group.keyKind === 'environment' || first === undefined) {
    return group.sentence === '' ? group.test : plainSentence(group);
  }
  return first.trim();
}

function plainSentence(group: GroupInRun): string {
  const plain = group.sentence.replaceAll('`', '');
  return plain.charAt(0).toUpperCase() + plain.slice(1);
}

/** The categories that may be chosen, with the digits that choose them. */
export function choices(categories: Category[] | undefined): { digit: string; name: string }[] {
  return (categories ?? [])
    .filter((one) => !one.retired)
    .slice(0, 9)
    .map((one, i) => ({ digit: String(i + 1), name: one.name }));
}
