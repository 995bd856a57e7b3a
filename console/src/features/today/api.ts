import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, unwrap } from '../../shared/api/client';
import { triageKeys } from '../../shared/triage/keys';

export type Today = Schemas['Today'];
export type StreamToday = Schemas['StreamToday'];

/** Who is signed in looks now; told once for as long as the page is open. */
export function lookQuery(project: string) {
  return queryOptions({
    queryKey: ['look', project],
    queryFn: () =>
      unwrap(api.POST('/api/v1/projects/{project}/today/look', { params: { path: { project } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** What is new since then; since a day for null, and nothing yet while that is not known. */
export function todayQuery(project: string, since: string | null | undefined) {
  return queryOptions({
    queryKey: [...triageKeys.groups(project), 'today', since],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/today', {
          params: { path: { project }, query: since ? { since } : {} },
        }),
      ),
    enabled: since !== undefined,
  });
}
