import { queryOptions } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';
import { runKeys } from '../runs/keys';

/** A result with all that its file told. */
export function detailQuery(
  project: string,
  run: { id: number; version: number },
  result: string,
  full: boolean,
) {
  return queryOptions({
    queryKey: runKeys.inside(project, run, 'one', result, full),
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/runs/{run}/results/{result}', {
          params: { path: { project, run: run.id, result }, query: { full } },
        }),
      ),
    placeholderData: (before) => (before?.result.id === result ? before : undefined),
  });
}
