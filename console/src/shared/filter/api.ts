import { queryOptions } from '@tanstack/react-query';
import { api, done, type Schemas, unwrap } from '../api/client';

export type FilterHelp = Schemas['FilterHelp'];
export type FilterThing = 'run' | 'result' | 'test' | 'group';
export type SavedFilter = Schemas['SavedFilter'];

/** What is wrong with a filter, and what could stand where somebody writes. */
export function filterHelpQuery(project: string, of: string, text: string, at: number) {
  return queryOptions({
    queryKey: ['filter help', project, of, text, at],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/filters', {
          params: { path: { project }, query: { of: of as FilterThing, text, at } },
        }),
      ),
    staleTime: 60_000,
    placeholderData: (before: FilterHelp | undefined) => before,
  });
}

/** What can be asked. */
export function catalogueQuery(project: string) {
  return queryOptions({
    queryKey: ['filter catalogue', project],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/filters/catalogue', { params: { path: { project } } }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** How much a filter picks; asked for again when a run has changed. */
export function filterCountQuery(project: string, of: FilterThing, filter: string) {
  return queryOptions({
    queryKey: ['runs', project, 'count', of, filter],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/filters/count', {
          params: { path: { project }, query: { of, filter } },
        }),
      ),
  });
}

export const savedKey = (project: string) => ['saved filters', project] as const;

/** Filters under a name: those that all have, and one's own. */
export function savedQuery(project: string) {
  return queryOptions({
    queryKey: savedKey(project),
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/filters/saved', { params: { path: { project } } }),
      ),
  });
}

/** What names a saved filter. */
export function usesQuery(project: string, filter: number) {
  return queryOptions({
    queryKey: [...savedKey(project), 'uses', filter],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/filters/saved/{filter}/uses', {
          params: { path: { project, filter } },
        }),
      ),
  });
}

/** A filter as somebody says it. */
export interface FilterSaid {
  name: string;
  of: string;
  filter: string;
}

export function addFilter(project: string, mine: boolean, body: FilterSaid): Promise<SavedFilter> {
  const params = { path: { project } };
  return unwrap(
    mine
      ? api.POST('/api/v1/projects/{project}/filters/mine', { params, body })
      : api.POST('/api/v1/projects/{project}/filters/saved', { params, body }),
  );
}

export function changeFilter(
  project: string,
  filter: SavedFilter,
  mine: boolean,
  said: FilterSaid,
): Promise<SavedFilter> {
  const params = { path: { project, filter: filter.id } };
  const body = { version: filter.version, filter: said };
  return unwrap(
    mine
      ? api.PUT('/api/v1/projects/{project}/filters/mine/{filter}', { params, body })
      : api.PUT('/api/v1/projects/{project}/filters/saved/{filter}', { params, body }),
  );
}

export function removeFilter(project: string, filter: SavedFilter): Promise<void> {
  const params = { path: { project, filter: filter.id } };
  return done(
    filter.mine
      ? api.DELETE('/api/v1/projects/{project}/filters/mine/{filter}', { params })
      : api.DELETE('/api/v1/projects/{project}/filters/saved/{filter}', { params }),
  );
}
