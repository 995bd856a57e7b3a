import { queryOptions } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';

const LIST_MS = 60_000;

/** The streams of a project, each with its latest run. */
export function streamsQuery(project: string) {
  return queryOptions({
    queryKey: ['streams', project],
    queryFn: () =>
      unwrap(api.GET('/api/v1/projects/{project}/streams', { params: { path: { project } } })),
    refetchInterval: LIST_MS,
  });
}
