import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, type Schemas, unwrap } from '../../shared/api/client';
import type { Show } from './model';

export type Taken = Schemas['TestInStream'];
export type TestDetail = Schemas['TestDetail'];
export type TestHistory = Schemas['TestHistory'];
export type PastResult = Schemas['PastResult'];
export type Rename = Schemas['Rename'];

const keys = {
  all: (project: string) => ['trust', project] as const,
};

const MOST = 500;

/** Tests that are taken for something, the most certain first. */
export function takenQuery(
  project: string,
  verdict: Exclude<Show, 'renamed'>,
  stream: string | undefined,
) {
  return queryOptions({
    queryKey: [...keys.all(project), 'taken', verdict, stream ?? ''],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/tests/taken', {
          params: {
            path: { project },
            query: { verdict, limit: MOST, ...(stream === undefined ? {} : { stream }) },
          },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

export function renamesQuery(project: string, stream: string) {
  return queryOptions({
    queryKey: [...keys.all(project), 'renames', stream],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/tests/renames', {
          params: { path: { project }, query: { stream } },
        }),
      ),
  });
}

export function testQuery(project: string, test: number) {
  return queryOptions({
    queryKey: [...keys.all(project), 'test', test],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/tests/{test}', { params: { path: { project, test } } }),
      ),
  });
}

/** What it did in the latest hundred runs of a stream. */
export function historyQuery(
  project: string,
  test: number,
  stream: string,
  branch: string | undefined,
) {
  return queryOptions({
    queryKey: [...keys.all(project), 'history', test, stream, branch ?? ''],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/tests/{test}/history', {
          params: {
            path: { project, test },
            query: { stream, limit: 100, ...(branch === undefined ? {} : { branch }) },
          },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

/** The streams of a project by their names. */
export function streamNamesQuery(project: string) {
  return queryOptions({
    queryKey: [...keys.all(project), 'streams'],
    queryFn: async () => {
      const streams = await unwrap(
        api.GET('/api/v1/projects/{project}/streams', {
          params: { path: { project } },
        }),
      );
      return streams.map((one) => one.name).sort();
    },
    staleTime: 60_000,
  });
}
