import { queryOptions } from '@tanstack/react-query';
import { api, done, type Schemas, unwrap } from '../../../shared/api/client';
import { triageKeys } from '../../../shared/triage/keys';

export type Rule = Schemas['Rule'];
export type RuleTrial = Schemas['RuleTrial'];

/** What is written of a rule before it is kept. */
export interface Draft {
  name: string;
  filter: string;
  pattern: string;
  category: string;
  comment: string;
  on: boolean;
}

export function rulesQuery(project: string) {
  return queryOptions({
    queryKey: triageKeys.rules(project),
    queryFn: () =>
      unwrap(api.GET('/api/v1/projects/{project}/rules', { params: { path: { project } } })),
  });
}

/** Keeps it, as a new one or in place of one that was seen; applies it to some of the latest runs. */
export function keepRule(
  project: string,
  before: Rule | undefined,
  draft: Draft,
  runs: number,
): Promise<Rule> {
  const body = { ...draft, comment: draft.comment.trim() === '' ? null : draft.comment, runs };
  return before === undefined
    ? unwrap(api.POST('/api/v1/projects/{project}/rules', { params: { path: { project } }, body }))
    : unwrap(
        api.PUT('/api/v1/projects/{project}/rules/{rule}', {
          params: { path: { project, rule: before.id } },
          body: { version: before.version, rule: body },
        }),
      );
}

export function removeRule(project: string, rule: number): Promise<void> {
  return done(
    api.DELETE('/api/v1/projects/{project}/rules/{rule}', { params: { path: { project, rule } } }),
  );
}

/** Switches it off, and takes back all that it has explained. */
export function takeBackRule(project: string, rule: number) {
  return unwrap(
    api.DELETE('/api/v1/projects/{project}/rules/{rule}/explained', {
      params: { path: { project, rule } },
    }),
  );
}

export function orderRules(project: string, rules: number[]): Promise<void> {
  return done(
    api.PUT('/api/v1/projects/{project}/rules/order', {
      params: { path: { project } },
      body: { rules },
    }),
  );
}

/** What it would do in the latest runs. */
export function tryRule(
  project: string,
  rule: number | undefined,
  { filter, pattern }: { filter: string; pattern: string },
  runs: number,
) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/rules/trial', {
      params: { path: { project } },
      body: { filter, pattern, rule: rule ?? null, runs },
    }),
  );
}
