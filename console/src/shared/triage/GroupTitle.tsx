import type { Schemas } from '../api/client';
import { Template } from './Template';

type Titled = { title: Schemas['GroupTitle'] };

/** What a failure group is called. */
export function GroupTitle({ group }: { group: Titled }) {
  const { text, fromError } = group.title;
  return fromError ? <Template text={text} /> : text;
}

/** What tells more of it, beside its title. */
export function GroupBeside({ group }: { group: Titled }) {
  const { beside, fromError } = group.title;
  return fromError ? beside : <Template text={beside} />;
}
