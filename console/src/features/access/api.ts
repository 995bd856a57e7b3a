import { queryOptions } from '@tanstack/react-query';
import { api, done, rememberCsrf, type Schemas, unwrap } from '../../shared/api/client';
import { accessKeys } from './keys';

export type Project = Schemas['Project'];
export type Token = Schemas['Token'];

export function fetchTokens(project: string): Promise<Token[]> {
  return unwrap(api.GET('/api/v1/projects/{project}/tokens', { params: { path: { project } } }));
}

export const sessionsQuery = queryOptions({
  queryKey: accessKeys.sessions,
  queryFn: () => unwrap(api.GET('/api/v1/session/all')),
});

export function endSession(id: number): Promise<void> {
  return done(api.DELETE('/api/v1/session/all/{id}', { params: { path: { id } } }));
}

export function signOutElsewhere(): Promise<void> {
  return done(api.DELETE('/api/v1/session/all'));
}

export function fetchOwnTokens(): Promise<Token[]> {
  return unwrap(api.GET('/api/v1/session/tokens'));
}

export function createOwnToken(body: Schemas['NewToken']): Promise<Schemas['CreatedToken']> {
  return unwrap(api.POST('/api/v1/session/tokens', { body }));
}

export function revokeOwnToken(id: number): Promise<void> {
  return done(api.DELETE('/api/v1/session/tokens/{id}', { params: { path: { id } } }));
}

export async function signIn(login: string, password: string): Promise<Schemas['Session']> {
  const session = await unwrap(api.POST('/api/v1/session', { body: { login, password } }));
  rememberCsrf(session.csrf);
  return session;
}

export function changePassword(present: string, next: string): Promise<void> {
  return done(api.PUT('/api/v1/session/password', { body: { present, next } }));
}

export function signOut(): Promise<void> {
  return done(api.DELETE('/api/v1/session'));
}

export function createProject(key: string, name: string): Promise<Project> {
  return unwrap(api.POST('/api/v1/projects', { body: { key, name } }));
}

export function revokeToken(project: string, id: number): Promise<void> {
  return done(
    api.DELETE('/api/v1/projects/{project}/tokens/{id}', { params: { path: { project, id } } }),
  );
}
