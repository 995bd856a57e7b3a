import { queryOptions } from '@tanstack/react-query';
import { api, done, type Schemas, unwrap } from '../api/client';

export type Category = Schemas['Category'];
export type GroupInRun = Schemas['GroupInRun'];
export type GroupsInRun = Schemas['GroupsInRun'];
export type Said = Schemas['Said'];

export const triageKeys = {
  categories: (project: string) => ['categories', project] as const,
  /** Groups and what is decided of them, of all runs. */
  groups: (project: string) => ['groups', project] as const,
  /** Once all is grouped it is asked for again: the last answer may have come just before. */
  groupsInRun: (project: string, run: { id: number; version: number; explained: boolean }) =>
    ['groups', project, run.id, run.version, run.explained] as const,
};

export function categoriesQuery(project: string) {
  return queryOptions({
    queryKey: triageKeys.categories(project),
    queryFn: () =>
      unwrap(api.GET('/api/v1/projects/{project}/categories', { params: { path: { project } } })),
  });
}

export function groupsInRunQuery(
  project: string,
  run: { id: number; version: number; explained: boolean },
) {
  return queryOptions({
    queryKey: triageKeys.groupsInRun(project, run),
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/runs/{run}/groups', {
          params: { path: { project, run: run.id } },
        }),
      ),
    // What was decided before is carried a moment after the results came.
    refetchInterval: run.explained ? false : 1_000,
    placeholderData: (before) => before,
  });
}

/** Explains a result, and with it the failures that share its cause. */
export function decide(
  project: string,
  run: number,
  result: string,
  category: string,
  comment: string,
) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/runs/{run}/results/{result}/decision', {
      params: { path: { project, run, result } },
      body: { category, comment: comment === '' ? null : comment, scope: 'group' },
    }),
  );
}

/** Takes a decision back, wherever it was carried. */
export function undo(project: string, decision: number): Promise<void> {
  return done(
    api.DELETE('/api/v1/projects/{project}/decisions/{decision}', {
      params: { path: { project, decision } },
    }),
  );
}
