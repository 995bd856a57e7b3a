import { Template } from './Template';
import { errorBeside, isNamedByError, type Titled, title } from './title';

/** What a failure group is called. */
export function GroupTitle({ group }: { group: Titled }) {
  return isNamedByError(group) ? <Template text={title(group)} /> : title(group);
}

/** What tells more of it, beside its title. */
export function GroupBeside({ group }: { group: Titled }) {
  const error = errorBeside(group);
  return error === undefined ? group.sentence.replaceAll('`', '') : <Template text={error} />;
}
