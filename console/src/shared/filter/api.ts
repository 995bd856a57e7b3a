import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, unwrap } from '../api/client';

export type FilterHelp = Schemas['FilterHelp'];
export type FilterThing = 'run' | 'result' | 'test';

/** What is wrong with a filter, and what could stand where somebody writes. */
export function filterHelpQuery(project: string, of: FilterThing, text: string, at: number) {
  return queryOptions({
    queryKey: ['filter help', project, of, text, at],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/filters', {
          params: { path: { project }, query: { of, text, at } },
        }),
      ),
    staleTime: 60_000,
    placeholderData: (before) => before,
  });
}
