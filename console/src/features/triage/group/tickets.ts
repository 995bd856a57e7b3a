import { queryOptions } from '@tanstack/react-query';
import { api, done, unwrap } from '../../../shared/api/client';
import { triageKeys } from '../../../shared/triage/keys';

/** @param text empty for words of the group */
export function alikeQuery(project: string, group: number, text: string) {
  return queryOptions({
    queryKey: triageKeys.alike(project, group, text),
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/groups/{group}/tickets/alike', {
          params: { path: { project, group }, query: text === '' ? {} : { text } },
        }),
      ),
    retry: false,
    staleTime: 10_000,
  });
}

export function draftTicket(project: string, group: number) {
  return unwrap(
    api.GET('/api/v1/projects/{project}/groups/{group}/tickets/draft', {
      params: { path: { project, group } },
    }),
  );
}

/** @param key as it was typed: a key, or the address of a page */
export function linkTicket(project: string, group: number, key: string) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/groups/{group}/tickets', {
      params: { path: { project, group } },
      body: { key, title: null, text: null, say: null },
    }),
  );
}

export function makeTicket(project: string, group: number, title: string, text: string) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/groups/{group}/tickets', {
      params: { path: { project, group } },
      body: { key: null, title, text, say: null },
    }),
  );
}

/** Asks the tracker now. */
export function askForTicket(project: string, group: number, ticket: number) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/groups/{group}/tickets/{ticket}/asked', {
      params: { path: { project, group, ticket } },
    }),
  );
}

export function unlinkTicket(project: string, group: number, ticket: number): Promise<void> {
  return done(
    api.DELETE('/api/v1/projects/{project}/groups/{group}/tickets/{ticket}', {
      params: { path: { project, group, ticket } },
    }),
  );
}
