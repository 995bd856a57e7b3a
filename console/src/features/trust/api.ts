import { keepPreviousData, queryOptions, useQueryClient } from '@tanstack/react-query';
import { api, done, type Schemas, unwrap } from '../../shared/api/client';
import { trustKeys } from '../../shared/trust/keys';
import type { Rank } from './ranks/words';

export type Taken = Schemas['TestInStream'];
export type TestDetail = Schemas['TestDetail'];
export type TestHistory = Schemas['TestHistory'];
export type PastResult = Schemas['PastResult'];
export type Moment = Schemas['Moment'];
export type Rename = Schemas['Rename'];
export type Quarantine = Schemas['Quarantine'];
export type Grid = Schemas['Grid'];
export type Terms = Partial<Schemas['QuarantineTerms']>;

/** What a test can be taken for, of what is listed. */
export type Verdict = 'flaky' | 'broken' | 'unsure';

/** So many rows of a list are told at once. */
export const MOST = 500;

/** Tests that are taken for something, the most certain first. */
export function takenQuery(project: string, verdict: Verdict, stream: string | undefined) {
  return queryOptions({
    queryKey: [...trustKeys.all(project), 'taken', verdict, stream ?? ''],
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

/** Flaky tests that are in no quarantine, those first that failed most often. */
export function proposedQuery(project: string, stream: string | undefined) {
  return queryOptions({
    queryKey: [...trustKeys.all(project), 'proposed', stream ?? ''],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/tests/taken', {
          params: {
            path: { project },
            query: {
              verdict: 'flaky',
              free: true,
              order: 'often',
              limit: 20,
              ...(stream === undefined ? {} : { stream }),
            },
          },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

/** Tests in quarantine, the one that ends first first. */
export function quarantineQuery(project: string, stream: string | undefined) {
  return queryOptions({
    queryKey: [...trustKeys.all(project), 'quarantine', stream ?? ''],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/quarantine', {
          params: {
            path: { project },
            query: { limit: MOST, ...(stream === undefined ? {} : { stream }) },
          },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

/** All that there were of a test, the latest first. */
export function quarantineOfQuery(project: string, test: number) {
  return queryOptions({
    queryKey: [...trustKeys.all(project), 'quarantine of', test],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/quarantine', {
          params: { path: { project }, query: { test } },
        }),
      ),
  });
}

const NOTHING_SAID: Schemas['QuarantineTerms'] = {
  tests: null,
  filter: null,
  stream: null,
  trial: null,
  version: null,
  owner: null,
  reason: null,
  ticket: null,
  until: null,
};

/** Puts tests there, by their numbers or by a filter; on trial, only tells which. */
export function quarantine(project: string, terms: Terms): Promise<Schemas['QuarantineAdded']> {
  return unwrap(
    api.POST('/api/v1/projects/{project}/quarantine', {
      params: { path: { project } },
      body: { ...NOTHING_SAID, ...terms },
    }),
  );
}

export function changeQuarantine(project: string, id: number, terms: Terms): Promise<void> {
  return done(
    api.PUT('/api/v1/projects/{project}/quarantine/{id}', {
      params: { path: { project, id } },
      body: { ...NOTHING_SAID, ...terms },
    }),
  );
}

export function endQuarantine(project: string, id: number): Promise<void> {
  return done(
    api.DELETE('/api/v1/projects/{project}/quarantine/{id}', {
      params: { path: { project, id } },
    }),
  );
}

/** Looks again at all that is known of tests. */
export function useTrustAgain(project: string): () => Promise<void> {
  const client = useQueryClient();
  return () => client.invalidateQueries({ queryKey: trustKeys.all(project) });
}

/** Tests by a figure of the latest runs. */
export function rankedQuery(project: string, by: Rank, stream: string | undefined, filter: string) {
  return queryOptions({
    queryKey: [...trustKeys.all(project), 'ranked', by, stream ?? '', filter],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/tests/ranked', {
          params: {
            path: { project },
            query: {
              by,
              limit: MOST,
              ...(stream === undefined ? {} : { stream }),
              ...(filter === '' ? {} : { filter }),
            },
          },
        }),
      ),
  });
}

/** What tests did in the latest hundred runs, or what fails in one in the runs up to it. */
export function gridQuery(
  project: string,
  stream: string,
  filter: string,
  run: number | undefined,
) {
  return queryOptions({
    queryKey: [...trustKeys.all(project), 'grid', stream, filter, run ?? 0],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/tests/grid', {
          params: {
            path: { project },
            query: {
              stream,
              ...(filter === '' ? {} : { filter }),
              ...(run === undefined ? {} : { run }),
            },
          },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

/** Streams that became slower as a whole. */
/** Suites that became slower by several of their tests. */
export function slowSuitesQuery(project: string, stream: string | undefined) {
  return queryOptions({
    queryKey: [...trustKeys.all(project), 'slow-suites', stream],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/tests/slow-suites', {
          params: { path: { project }, query: stream === undefined ? {} : { stream } },
        }),
      ),
  });
}

export function slowStreamsQuery(project: string) {
  return queryOptions({
    queryKey: [...trustKeys.all(project), 'slow streams'],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/tests/slow-streams', { params: { path: { project } } }),
      ),
  });
}

export function renamesQuery(project: string, stream: string) {
  return queryOptions({
    queryKey: [...trustKeys.all(project), 'renames', stream],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/tests/renames', {
          params: { path: { project }, query: { stream } },
        }),
      ),
  });
}

/** Where a list by figures is found as a table. */
export function tableAddress(
  project: string,
  by: string,
  stream: string | undefined,
  filter: string,
): string {
  const asked = new URLSearchParams({ by });
  if (stream !== undefined) asked.set('stream', stream);
  if (filter !== '') asked.set('filter', filter);
  return `/api/v1/projects/${encodeURIComponent(project)}/tests/ranked.csv?${asked}`;
}

/** Tests whose names are others in each run. */
export function madeUpQuery(project: string, stream: string | undefined) {
  return queryOptions({
    queryKey: [...trustKeys.all(project), 'made-up', stream],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/tests/made-up', {
          params: { path: { project }, query: stream === undefined ? {} : { stream } },
        }),
      ),
  });
}

export function foldMadeUp(project: string, id: number, folded: boolean) {
  return unwrap(
    api.PUT('/api/v1/projects/{project}/tests/made-up/{id}', {
      params: { path: { project, id } },
      body: { folded },
    }),
  );
}

export function testQuery(project: string, test: number) {
  return queryOptions({
    queryKey: [...trustKeys.all(project), 'test', test],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/tests/{test}', { params: { path: { project, test } } }),
      ),
  });
}

/** What happened to it in a stream, and what people said of it; the latest first. */
export function momentsQuery(project: string, test: number, stream: string) {
  return queryOptions({
    queryKey: [...trustKeys.all(project), 'moments', test, stream],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/tests/{test}/moments', {
          params: { path: { project, test }, query: { stream, limit: MOST } },
        }),
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
    queryKey: [...trustKeys.all(project), 'history', test, stream, branch ?? ''],
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

/** Says of two tests that they are one under two names, or that they are not. */
export function sayRename(
  project: string,
  said: { stream: string; oldTest: number; newTest: number; joined: boolean },
): Promise<void> {
  return done(
    api.PUT('/api/v1/projects/{project}/tests/renames', {
      params: { path: { project } },
      body: said,
    }),
  );
}

/** All that is known is learned anew a moment later. */
export function useLearnedAnew(project: string): () => Promise<void> {
  const client = useQueryClient();
  const again = () => client.invalidateQueries({ queryKey: trustKeys.all(project) });
  return async () => {
    await again();
    setTimeout(() => void again(), LEARNED_MS);
  };
}

const LEARNED_MS = 2_500;

/** The streams of a project by their names. */
export function streamNamesQuery(project: string) {
  return queryOptions({
    queryKey: [...trustKeys.all(project), 'streams'],
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
