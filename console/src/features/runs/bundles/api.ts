import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, unwrap } from '../../../shared/api/client';
import { runKeys } from '../../../shared/runs/keys';

export type Bundle = Schemas['Bundle'];

/** Addresses of bundles are good for some hours. */
const FRESH_MS = 3_600_000;

export function bundlesQuery(project: string, run: { id: number; version: number }) {
  return queryOptions({
    queryKey: runKeys.inside(project, run, 'bundles'),
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/bundles', {
          params: { path: { project }, query: { run: run.id } },
        }),
      ),
    staleTime: FRESH_MS,
    placeholderData: (before) => before,
  });
}

export function latestBundleQuery(project: string, stream: string, title: string | undefined) {
  return queryOptions({
    queryKey: runKeys.latestBundle(project, stream, title),
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/bundles/latest', {
          params: { path: { project }, query: { stream, ...(title ? { title } : {}) } },
        }),
      ),
    staleTime: 0,
  });
}
