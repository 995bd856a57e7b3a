import { queryOptions } from '@tanstack/react-query';
import { api, done, type Schemas, unwrap, unwrapTagged } from '../api/client';
import type { Outcome } from '../ui/OutcomeGlyph';
import { editKeys } from './keys';

export type Note = Schemas['Note'];
export type Edit = Schemas['Edit'];
export type Overruling = Schemas['Overruling'];

/** What a note is about. */
export interface Subject {
  kind: 'run' | 'test';
  id: number;
}

/** A note with the tag of its version, which a change has to name. */
export interface TaggedNote {
  note: Note;
  tag: string;
}

export function noteQuery(project: string, subject: Subject) {
  return queryOptions({
    queryKey: editKeys.note(project, subject),
    queryFn: () => readNote(project, subject),
    // A form must begin with what stands now.
    staleTime: 0,
    gcTime: 0,
  });
}

export async function readNote(project: string, { kind, id }: Subject): Promise<TaggedNote> {
  const { data, tag } = await unwrapTagged(
    kind === 'run'
      ? api.GET('/api/v1/projects/{project}/runs/{run}/note', {
          params: { path: { project, run: id } },
        })
      : api.GET('/api/v1/projects/{project}/tests/{test}/note', {
          params: { path: { project, test: id } },
        }),
  );
  return { note: data, tag };
}

export function saveNote(
  project: string,
  { kind, id }: Subject,
  tag: string,
  note: Note,
): Promise<Note> {
  const header = { 'If-Match': tag };
  return unwrap(
    kind === 'run'
      ? api.PUT('/api/v1/projects/{project}/runs/{run}/note', {
          params: { path: { project, run: id }, header },
          body: note,
        })
      : api.PUT('/api/v1/projects/{project}/tests/{test}/note', {
          params: { path: { project, test: id }, header },
          body: note,
        }),
  );
}

export function editsQuery(project: string, { kind, id }: Subject) {
  return queryOptions({
    queryKey: editKeys.list(project, { kind, id }),
    queryFn: () =>
      unwrap(
        kind === 'run'
          ? api.GET('/api/v1/projects/{project}/runs/{run}/edits', {
              params: { path: { project, run: id } },
            })
          : api.GET('/api/v1/projects/{project}/tests/{test}/edits', {
              params: { path: { project, test: id } },
            }),
      ),
    staleTime: 0,
  });
}

/** With `outcome` null what was reported holds again. */
export function setOutcome(
  project: string,
  run: number,
  result: string,
  body: { seen: Outcome; outcome: Outcome | null; reason: string },
): Promise<void> {
  return done(
    api.PUT('/api/v1/projects/{project}/runs/{run}/results/{result}/outcome', {
      params: { path: { project, run, result } },
      body,
    }),
  );
}
