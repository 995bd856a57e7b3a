import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { ApiError, api, done, type Schemas, unwrap, unwrapPage } from '../../shared/api/client';
import { runKeys } from '../../shared/runs/keys';
import { trustKeys } from '../../shared/trust/keys';

export type Stream = Schemas['Stream'];
export type Run = Schemas['Run'];
export type RunPoint = Schemas['RunPoint'];
export type Result = Schemas['Result'];
export type Part = Schemas['Part'];
export type Counts = Schemas['Counts'];
export type Changes = Schemas['Changes'];
export type Difference = Schemas['Difference'];
export type Suite = Schemas['Suite'];

/** How often an open run is looked at again, should news of it get lost on their way. */
const OPEN_MS = 10_000;

export type StreamSettings = Schemas['StreamSettings'];

export function settingsQuery(project: string, stream: string) {
  return queryOptions({
    queryKey: runKeys.settings(project, stream),
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/streams/settings', {
          params: { path: { project }, query: { name: stream } },
        }),
      ),
    staleTime: 0,
    gcTime: 0,
  });
}

export function setSettings(
  project: string,
  stream: string,
  settings: StreamSettings,
): Promise<StreamSettings> {
  return unwrap(
    api.PUT('/api/v1/projects/{project}/streams/settings', {
      params: { path: { project }, query: { name: stream } },
      body: settings,
    }),
  );
}

/** Runs of a stream, or of all. */
export function runsQuery(project: string, stream: string | undefined, filter: string) {
  return infiniteQueryOptions({
    queryKey: runKeys.list(project, stream, filter),
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      unwrapPage<Run>(
        api.GET('/api/v1/projects/{project}/runs', {
          params: {
            path: { project },
            query: {
              limit: 50,
              ...(stream === undefined ? {} : { stream }),
              ...(filter ? { filter } : {}),
              ...(pageParam ? { cursor: pageParam } : {}),
            },
          },
        }),
      ),
    getNextPageParam: (page) => page.next,
    placeholderData: (before) => before,
  });
}

export type Found = Schemas['FoundResult'];

/** Results of all runs, those of the newest run first. */
export function foundQuery(project: string, filter: string) {
  return infiniteQueryOptions({
    queryKey: [...runKeys.of(project), 'found', filter],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      unwrapPage<Found>(
        api.GET('/api/v1/projects/{project}/results', {
          params: {
            path: { project },
            query: {
              ...(filter ? { filter } : {}),
              ...(pageParam ? { cursor: pageParam } : {}),
            },
          },
        }),
      ),
    getNextPageParam: (page) => page.next,
  });
}

/** Tests of all runs, those that came first first. */
export function foundTestsQuery(project: string, filter: string) {
  return infiniteQueryOptions({
    queryKey: [...runKeys.of(project), 'found tests', filter],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      unwrapPage<Schemas['Test']>(
        api.GET('/api/v1/projects/{project}/tests', {
          params: {
            path: { project },
            query: {
              ...(filter ? { filter } : {}),
              ...(pageParam ? { cursor: pageParam } : {}),
            },
          },
        }),
      ),
    getNextPageParam: (page) => page.next,
  });
}

export function runQuery(project: string, stream: string, number: number) {
  return queryOptions({
    queryKey: runKeys.one(project, stream, number),
    queryFn: async () => {
      const found = await unwrap(
        api.GET('/api/v1/projects/{project}/runs', {
          params: { path: { project }, query: { stream, number } },
        }),
      );
      const run = found[0];
      if (!run) {
        throw new ApiError(404, `The stream ${stream} has no run ${number}.`);
      }
      return run;
    },
    refetchInterval: (query) => (query.state.data?.open ? OPEN_MS : false),
  });
}

export type StepBeside = Schemas['StepBeside'];

/** The steps of a result beside those of a pinned one, of the run that is `other`. */
export function stepsBesideQuery(
  project: string,
  run: Run,
  result: string,
  attempt: number,
  other: Run | undefined,
  pin: { result: string; attempt: number },
) {
  return queryOptions({
    queryKey: runKeys.inside(
      project,
      run,
      'steps',
      result,
      attempt,
      other?.id,
      other?.version,
      pin,
    ),
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/runs/{run}/results/{result}/steps', {
          params: {
            path: { project, run: run.id, result },
            query: {
              attempt,
              otherRun: other?.id ?? 0,
              otherResult: pin.result,
              otherAttempt: pin.attempt,
            },
          },
        }),
      ),
  });
}

/** How many failing results of a run fail no gate. */
export function quarantinedQuery(project: string, run: Run) {
  return queryOptions({
    queryKey: [...trustKeys.all(project), 'in run', run.id, run.version],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/quarantine/runs/{run}', {
          params: { path: { project, run: run.id } },
        }),
      ),
  });
}

/** Everything below a run is asked for again when the run has changed. */
export function partsQuery(project: string, run: Run) {
  return queryOptions({
    queryKey: runKeys.inside(project, run, 'parts'),
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/runs/{run}/parts', {
          params: { path: { project, run: run.id } },
        }),
      ),
    placeholderData: (before) => before,
  });
}

/** In place of a suite's number: results that stand in none. */
export const NO_SUITE = 0;

const PAGE = 100;

export function resultsQuery(project: string, run: Run, filter: string, suite?: number) {
  return infiniteQueryOptions({
    queryKey: runKeys.inside(project, run, 'list', filter, suite),
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      unwrapPage<Result>(
        api.GET('/api/v1/projects/{project}/runs/{run}/results', {
          params: {
            path: { project, run: run.id },
            query: {
              limit: PAGE,
              ...(filter ? { filter } : {}),
              ...(suite === undefined ? {} : { suite }),
              ...(pageParam ? { cursor: pageParam } : {}),
            },
          },
        }),
      ),
    getNextPageParam: (page) => page.next,
    placeholderData: (before) => before,
  });
}

export function suitesQuery(project: string, run: Run, parent: number | undefined, filter: string) {
  return queryOptions({
    queryKey: runKeys.inside(project, run, 'suites', parent, filter),
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/runs/{run}/suites', {
          params: {
            path: { project, run: run.id },
            query: { ...(filter ? { filter } : {}), ...(parent === undefined ? {} : { parent }) },
          },
        }),
      ),
    placeholderData: (before) => before,
  });
}

export function goneQuery(project: string, run: Run) {
  return queryOptions({
    queryKey: runKeys.inside(project, run, 'gone'),
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/runs/{run}/gone', {
          params: { path: { project, run: run.id } },
        }),
      ),
  });
}

/** What differs from another run of the stream, by its number. */
export function comparisonQuery(project: string, run: Run, against: number) {
  return queryOptions({
    queryKey: [...runKeys.inside(project, run, 'differences'), against],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/runs/{run}/differences', {
          params: { path: { project, run: run.id }, query: { with: against } },
        }),
      ),
  });
}

/** Out of sight at once, off the disk in the background. */
export function deleteRun(project: string, run: Run): Promise<void> {
  return done(
    api.DELETE('/api/v1/projects/{project}/runs/{run}', {
      params: { path: { project, run: run.id } },
    }),
  );
}

/** To where a run of another stream is after it. */
export function moveRun(project: string, run: Run, to: string): Promise<Schemas['MovedRun']> {
  return unwrap(
    api.POST('/api/v1/projects/{project}/runs/{run}/move', {
      params: { path: { project, run: run.id } },
      body: { to },
    }),
  );
}

export function renameStream(project: string, stream: string, name: string) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/streams/rename', {
      params: { path: { project }, query: { name: stream } },
      body: { name },
    }),
  );
}

/** All runs of a stream go to another one, which its name means from then on. */
export function moveRuns(project: string, stream: string, to: string) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/streams/move', {
      params: { path: { project }, query: { name: stream } },
      body: { to },
    }),
  );
}

export function namesBeforeQuery(project: string, stream: string) {
  return queryOptions({
    queryKey: [...runKeys.stream(project, stream), 'names before'],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/streams/names-before', {
          params: { path: { project }, query: { name: stream } },
        }),
      ),
  });
}

export function forgetName(project: string, name: string): Promise<void> {
  return done(
    api.DELETE('/api/v1/projects/{project}/streams/names-before', {
      params: { path: { project }, query: { name } },
    }),
  );
}

export function deleteStream(project: string, stream: string): Promise<void> {
  return done(
    api.DELETE('/api/v1/projects/{project}/streams', {
      params: { path: { project }, query: { name: stream } },
    }),
  );
}
