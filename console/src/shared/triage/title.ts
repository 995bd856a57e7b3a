/** What a failure group is called by. */
export interface Titled {
  keyKind: string;
  sentence: string;
  template: string;
}

/** Kinds of keys whose sentence names the thing that is wrong, which the error may not. */
const NAMING = ['environment', 'code', 'subject'];

/** Whether a group is called by its error, which has holes; else by a sentence. */
export function isNamedByError(group: Titled): boolean {
  return !NAMING.includes(group.keyKind) && firstLine(group) !== undefined;
}

/** What a group is called: by what its sentence names, or by the first line of its error. */
export function title(group: Titled): string {
  const error = isNamedByError(group) ? firstLine(group) : undefined;
  return error ?? capital(group.sentence).replaceAll('`', '');
}

/** The error, where the title does not tell it. */
export function errorBeside(group: Titled): string | undefined {
  return isNamedByError(group) ? undefined : firstLine(group);
}

function firstLine(group: Titled): string | undefined {
  return group.template
    .split('\n')
    .find((line) => /\p{L}/u.test(line))
    ?.trim();
}

/** A name of a program stays as it is. */
function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
