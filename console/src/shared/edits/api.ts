import { queryOptions } from '@tanstack/react-query';
import { api, done, type Schemas, unwrap, unwrapTagged } from '../api/client';
import type { Outcome } from '../ui/OutcomeGlyph';
import { editKeys, type Subject } from './keys';

export type Note = Schemas['Note'];
export type Edit = Schemas['Edit'];
export type Overruling = Schemas['Overruling'];

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

/** As the API's addresses name what a note is about. */
function path(project: string, { kind, id }: Subject) {
  return { project, kind: kind === 'run' ? 'runs' : 'tests', id } as const;
}

export async function readNote(project: string, subject: Subject): Promise<TaggedNote> {
  const { data, tag } = await unwrapTagged(
    api.GET('/api/v1/projects/{project}/{kind}/{id}/note', {
      params: { path: path(project, subject) },
    }),
  );
  return { note: data, tag };
}

export function saveNote(
  project: string,
  subject: Subject,
  tag: string,
  note: Note,
): Promise<Note> {
  return unwrap(
    api.PUT('/api/v1/projects/{project}/{kind}/{id}/note', {
      params: { path: path(project, subject), header: { 'If-Match': tag } },
      body: note,
    }),
  );
}

export function editsQuery(project: string, subject: Subject) {
  return queryOptions({
    queryKey: editKeys.list(project, subject),
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/{kind}/{id}/edits', {
          params: { path: path(project, subject) },
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
