import { queryOptions } from '@tanstack/react-query';
import { api, done, rememberCsrf, type Schemas, unwrap } from '../../shared/api/client';
import { accessKeys } from './keys';

export type Person = Schemas['Person'];
export type Member = Schemas['Member'];

export const ROLES = ['reader', 'contributor', 'owner'] as const;

export const peopleQuery = queryOptions({
  queryKey: accessKeys.people,
  queryFn: () => unwrap(api.GET('/api/v1/people')),
});

export const invitationsQuery = queryOptions({
  queryKey: accessKeys.invitations,
  queryFn: () => unwrap(api.GET('/api/v1/people/invitations')),
});

export function membersQuery(project: string) {
  return queryOptions({
    queryKey: accessKeys.members(project),
    queryFn: () =>
      unwrap(api.GET('/api/v1/projects/{project}/members', { params: { path: { project } } })),
  });
}

export function invite(body: Schemas['NewInvitation']): Promise<Schemas['CreatedInvitation']> {
  return unwrap(api.POST('/api/v1/people/invitations', { body }));
}

export function withdraw(login: string): Promise<void> {
  return done(api.DELETE('/api/v1/people/invitations/{login}', { params: { path: { login } } }));
}

export function resetPassword(login: string): Promise<Schemas['CreatedInvitation']> {
  return unwrap(api.POST('/api/v1/people/{login}/reset', { params: { path: { login } } }));
}

export function changePerson(
  login: string,
  administrator: boolean,
  enabled: boolean,
): Promise<Person> {
  return unwrap(
    api.PUT('/api/v1/people/{login}', {
      params: { path: { login } },
      body: { administrator, enabled },
    }),
  );
}

export function setMember(project: string, login: string, role: string): Promise<void> {
  return done(
    api.PUT('/api/v1/projects/{project}/members/{login}', {
      params: { path: { project, login } },
      body: { role },
    }),
  );
}

export function removeMember(project: string, login: string): Promise<void> {
  return done(
    api.DELETE('/api/v1/projects/{project}/members/{login}', {
      params: { path: { project, login } },
    }),
  );
}

export function changeProject(project: string, name: string, open: boolean) {
  return unwrap(
    api.PUT('/api/v1/projects/{project}', { params: { path: { project } }, body: { name, open } }),
  );
}

export function lookAtInvitation(secret: string): Promise<Schemas['InvitationView']> {
  return unwrap(api.POST('/api/v1/session/invitation', { body: { secret, password: null } }));
}

export async function join(secret: string, password: string): Promise<Schemas['Session']> {
  const session = await unwrap(api.POST('/api/v1/session/joining', { body: { secret, password } }));
  rememberCsrf(session.csrf);
  return session;
}
