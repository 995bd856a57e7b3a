import type { QueryClient } from '@tanstack/react-query';

/**
 * The names under which what belongs to runs is kept while it is shown. All but what hangs on a
 * run's version is asked for again when a run has changed.
 */
export const runKeys = {
  of: (project: string) => ['runs', project] as const,
  streams: (project: string) => ['runs', project, 'streams'] as const,
  stream: (project: string, name: string) => ['runs', project, 'stream', name] as const,
  settings: (project: string, stream: string) => ['stream settings', project, stream] as const,
  list: (project: string, stream: string | undefined, filter: string) =>
    ['runs', project, 'list', stream, filter] as const,
  one: (project: string, stream: string, number: number) =>
    ['runs', project, 'one', stream, number] as const,
  latestBundle: (project: string, stream: string, title: string | undefined) =>
    ['latest bundle', project, stream, title] as const,
  /** Results, which tell of notes on their tests, too. */
  results: (project: string) => ['results', project] as const,
  /** What a run holds: another version of it is other data. */
  inside: (project: string, run: { id: number; version: number }, ...what: unknown[]) =>
    ['results', project, run.id, run.version, ...what] as const,
  attachment: (href: string) => ['attachment', href] as const,
};

/** Runs of the project have changed. */
export async function runsChanged(client: QueryClient, project: string): Promise<void> {
  await client.invalidateQueries({ queryKey: runKeys.of(project) });
}

/** What is written about runs or tests of the project has changed. */
export async function notesChanged(client: QueryClient, project: string): Promise<void> {
  await Promise.all([
    runsChanged(client, project),
    client.invalidateQueries({ queryKey: runKeys.results(project) }),
  ]);
}
