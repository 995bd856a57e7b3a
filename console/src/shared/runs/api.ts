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
