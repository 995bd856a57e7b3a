import { keepPreviousData, queryOptions, useQueryClient } from '@tanstack/react-query';
import { api, done, type Schemas, unwrap } from '../api/client';
import { runKeys } from '../runs/keys';
import { triageKeys } from './keys';

export type Category = Schemas['Category'];
export type GroupInRun = Schemas['GroupInRun'];
export type GroupsInRun = Schemas['GroupsInRun'];
export type Said = Schemas['Said'];

export type Ticket = Schemas['Ticket'];
export type TrackerEntry = Schemas['TrackerEntry'];

export type Group = Schemas['Group'];
export type GroupDetail = Schemas['GroupDetail'];
export type Suggestion = Schemas['Suggestion'];
export type Desk = Schemas['Desk'];

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

/**
 * What shows something of decisions is asked for again. Nobody waits for that: a key that is pressed
 * meanwhile counts.
 */
export function useDecided(project: string): () => void {
  const client = useQueryClient();
  return () => {
    void client.invalidateQueries({ queryKey: triageKeys.groups(project) });
    // Lists that are filtered by category.
    void client.invalidateQueries({ queryKey: runKeys.results(project) });
  };
}

/**
 * What was just decided of a group is shown before it is asked for again: who decided wrongly takes
 * it back with the next key.
 */
export function useSaid(project: string) {
  const client = useQueryClient();
  return (group: number, said: Said, ends: string | null, untilClosed: boolean) => {
    client.setQueryData(groupQuery(project, group).queryKey, (before) =>
      before === undefined
        ? before
        : {
            ...before,
            line: {
              ...before.line,
              ...{ open: 0, returned: false, endedBy: null, ends, untilClosed, said },
            },
          },
    );
  };
}

/** How many groups are shown; nobody sorts more in a morning. */
const DESK = 500;

export function deskQuery(
  project: string,
  show: string,
  days: number | undefined,
  filter: string | undefined,
) {
  return queryOptions({
    queryKey: [...triageKeys.desk(project, show, days), filter ?? ''],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/groups', {
          params: {
            path: { project },
            query: {
              show,
              limit: DESK,
              ...(days === undefined ? {} : { days }),
              ...(filter === undefined ? {} : { filter }),
            },
          },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

export function groupQuery(project: string, group: number) {
  return queryOptions({
    queryKey: triageKeys.group(project, group),
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/groups/{group}', {
          params: { path: { project, group } },
        }),
      ),
  });
}

/**
 * Explains a group with all that it has.
 *
 * @param until a day on which that ends; empty for no end
 * @param untilClosed whether it ends when the tickets of the group are closed
 */
export function decideGroup(
  project: string,
  group: number,
  said: { category: string; comment: string; until: string; untilClosed: boolean },
) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/groups/{group}/decision', {
      params: { path: { project, group } },
      body: {
        category: said.category,
        comment: said.comment === '' ? null : said.comment,
        until: endOf(said.until),
        untilClosed: said.untilClosed,
        accepts: null,
      },
    }),
  );
}

/** When a day begins here; null for none. */
export function endOf(day: string): string | null {
  return day === '' ? null : new Date(`${day}T00:00`).toISOString();
}

/** Explains a group as another one was explained. */
export function acceptFor(project: string, group: number, decision: number) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/groups/{group}/decision', {
      params: { path: { project, group } },
      body: { category: null, comment: null, until: null, untilClosed: null, accepts: decision },
    }),
  );
}

/** Puts other groups together with one, which stays. */
export function joinGroups(project: string, into: number, groups: number[]): Promise<void> {
  return done(
    api.POST('/api/v1/projects/{project}/groups/{group}/joined', {
      params: { path: { project, group: into } },
      body: { groups },
    }),
  );
}

/** Takes what some tests have of a group out of it. */
export function partGroup(project: string, group: number, tests: number[]) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/groups/{group}/parted', {
      params: { path: { project, group } },
      body: { tests },
    }),
  );
}

/** Undoes that a group was joined to another one, or taken out of one. */
export function groupAsFound(project: string, group: number): Promise<void> {
  return done(
    api.DELETE('/api/v1/projects/{project}/groups/{group}/regrouped', {
      params: { path: { project, group } },
    }),
  );
}

/** What was decided of it is over: should it fail again, it asks again. */
export function mendGroup(project: string, group: number): Promise<void> {
  return done(
    api.POST('/api/v1/projects/{project}/groups/{group}/mended', {
      params: { path: { project, group } },
      body: { at: null },
    }),
  );
}

/** Gives it to somebody, or to nobody. */
export function assignGroup(project: string, group: number, to: string | null): Promise<void> {
  return done(
    api.PUT('/api/v1/projects/{project}/groups/{group}/assigned', {
      params: { path: { project, group } },
      body: { to },
    }),
  );
}
