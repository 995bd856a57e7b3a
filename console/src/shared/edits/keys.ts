import type { QueryClient } from '@tanstack/react-query';

/** What a note is about. */
export interface Subject {
  kind: 'run' | 'test';
  id: number;
}

/** The names under which what people wrote is kept while it is shown. */
export const editKeys = {
  of: (project: string) => ['edits', project] as const,
  note: (project: string, { kind, id }: Subject) => ['edits', project, kind, id, 'note'] as const,
  list: (project: string, { kind, id }: Subject) => ['edits', project, kind, id, 'list'] as const,
};

export async function editsChanged(client: QueryClient, project: string): Promise<void> {
  await client.invalidateQueries({ queryKey: editKeys.of(project) });
}
