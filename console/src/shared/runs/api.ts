import { queryOptions } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';
import { runKeys } from './keys';

const LIST_MS = 60_000;

/** The streams of a project, each with its latest run. */
export function streamsQuery(project: string) {
  return queryOptions({
    queryKey: runKeys.streams(project),
    queryFn: () =>
      unwrap(api.GET('/api/v1/projects/{project}/streams', { params: { path: { project } } })),
    refetchInterval: LIST_MS,
  });
}

/** One stream, with its trend. */
export function streamQuery(project: string, name: string) {
  return queryOptions({
    queryKey: runKeys.stream(project, name),
    queryFn: async () => {
      const found = await unwrap(
        api.GET('/api/v1/projects/{project}/streams', {
          params: { path: { project }, query: { name } },
        }),
      );
      return found[0] ?? null;
    },
    refetchInterval: LIST_MS,
  });
}
