import { queryOptions } from '@tanstack/react-query';
import { ApiError, api, rememberCsrf, type Schemas, unwrap } from '../api/client';
import { sessionKeys } from './keys';

async function fetchSession(): Promise<Schemas['Session'] | null> {
  try {
    const session = await unwrap(api.GET('/api/v1/session'));
    rememberCsrf(session.csrf);
    return session;
  } catch (e) {
    if (e instanceof ApiError && e.status === 401) {
      return null;
    }
    throw e;
  }
}

export const sessionQuery = queryOptions({
  queryKey: sessionKeys.session,
  queryFn: fetchSession,
  staleTime: 60_000,
});

export const projectsQuery = queryOptions({
  queryKey: sessionKeys.projects,
  queryFn: () => unwrap(api.GET('/api/v1/projects')),
  staleTime: 30_000,
});

export function createToken(
  project: string,
  body: Schemas['NewToken'],
): Promise<Schemas['CreatedToken']> {
  return unwrap(
    api.POST('/api/v1/projects/{project}/tokens', { params: { path: { project } }, body }),
  );
}
