import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { ApiError } from '../api/client';
import { notesChanged } from '../runs/keys';
import { Dialog, DialogActions } from '../ui/Dialog';
import { MarkdownText } from '../ui/MarkdownText';
import { Failed, Loading } from '../ui/States';
import { noteQuery, readNote, saveNote, type TaggedNote } from './api';
import { EditHistory } from './EditHistory';
import type { Subject } from './keys';
import { editsChanged } from './keys';
import { type Draft, draftOf, noteOf } from './model';

/** Description, labels and tags of a run or a test, to be changed. */
export function NoteDialog(props: {
  project: string;
  subject: Subject;
  title: string;
  onClose: () => void;
}) {
  const note = useQuery(noteQuery(props.project, props.subject));
  return (
    <Dialog title={props.title} wide onClose={props.onClose}>
      {note.error ? <Failed error={note.error} retry={() => note.refetch()} /> : null}
      {note.data ? <Form {...props} begun={note.data} /> : <Loading lines={5} />}
    </Dialog>
  );
}

const MEANWHILE = 412;

function Form(props: {
  project: string;
  subject: Subject;
  begun: TaggedNote;
  onClose: () => void;
}) {
  const client = useQueryClient();
  // What the form began with stays, whatever is fetched later: otherwise saving could overwrite unseen.
  const [seen, setSeen] = useState(props.begun);
  const [draft, setDraft] = useState<Draft>(() => draftOf(props.begun.note));
  const [theirs, setTheirs] = useState<TaggedNote>();
  const [wrong, setWrong] = useState<string>();
  const save = useMutation({
    mutationFn: async (tag: string) => {
      const note = noteOf(draft);
      if (typeof note === 'string') {
        throw new ApiError(0, note);
      }
      return saveNote(props.project, props.subject, tag, note);
    },
    onSuccess: async () => {
      await Promise.all([notesChanged(client, props.project), editsChanged(client, props.project)]);
      props.onClose();
    },
    onError: async (error) => {
      setWrong(error.message);
      if (error instanceof ApiError && error.status === MEANWHILE) {
        setTheirs(await readNote(props.project, props.subject));
      }
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setWrong(undefined);
    save.mutate(seen.tag);
  };
  return (
    <form onSubmit={submit} className="mt-4">
      <Description
        text={draft.description}
        onChange={(description) => setDraft({ ...draft, description })}
      />
      <div className="mt-3 grid gap-4 sm:grid-cols-2">
        <label className="block">
          <span className="text-sm font-semibold">Labels</span>
          <textarea
            className="textarea mt-1 h-24 w-full font-mono text-sm"
            placeholder={'team=fares\nenv=staging'}
            value={draft.labels}
            spellCheck={false}
            onChange={(e) => setDraft({ ...draft, labels: e.target.value })}
          />
          <span className="text-sm text-quiet">One key=value a line.</span>
        </label>
        <label className="block">
          <span className="text-sm font-semibold">Tags</span>
          <input
            className="input mt-1 w-full"
            placeholder="smoke release"
            value={draft.tags}
            spellCheck={false}
            onChange={(e) => setDraft({ ...draft, tags: e.target.value })}
          />
          <span className="text-sm text-quiet">Words with spaces between them.</span>
        </label>
      </div>
      {wrong ? (
        <p role="alert" className="mt-3 text-error">
          {wrong}
        </p>
      ) : null}
      {theirs ? (
        <Theirs
          theirs={theirs}
          onTake={() => {
            setDraft(draftOf(theirs.note));
            setSeen(theirs);
            setTheirs(undefined);
            setWrong(undefined);
          }}
          onOverwrite={() => {
            setSeen(theirs);
            setWrong(undefined);
            save.mutate(theirs.tag);
          }}
        />
      ) : null}
      <EditHistory project={props.project} subject={props.subject} />
      <DialogActions
        label="Save"
        disabled={save.isPending || theirs !== undefined}
        onCancel={props.onClose}
      />
    </form>
  );
}

function Description({ text, onChange }: { text: string; onChange: (text: string) => void }) {
  const [preview, setPreview] = useState(false);
  return (
    <div>
      <div className="flex items-baseline justify-between">
        <label htmlFor="note-description" className="text-sm font-semibold">
          Description
        </label>
        <button
          type="button"
          className="btn btn-ghost btn-xs font-normal"
          aria-pressed={preview}
          onClick={() => setPreview(!preview)}
        >
          {preview ? 'Write on' : 'Preview'}
        </button>
      </div>
      {preview ? (
        <div className="mt-1 min-h-36 rounded-field border border-base-300 p-3">
          {text.trim() === '' ? <p className="text-quiet">Nothing yet.</p> : null}
          <MarkdownText text={text} />
        </div>
      ) : (
        <textarea
          id="note-description"
          className="textarea mt-1 h-36 w-full"
          placeholder="What should somebody know who looks at this? Markdown."
          value={text}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </div>
  );
}

/** Somebody was quicker: what they wrote, and the choice. */
function Theirs(props: { theirs: TaggedNote; onTake: () => void; onOverwrite: () => void }) {
  const { description, labels, tags } = draftOf(props.theirs.note);
  return (
    <section
      aria-label="What stands now"
      className="mt-3 rounded-box border border-warning/50 bg-base-200 p-3"
    >
      <p className="text-sm font-semibold">What stands now</p>
      <pre className="mt-1 max-h-40 overflow-y-auto text-sm whitespace-pre-wrap">
        {[description || '(no description)', labels, tags].filter((one) => one).join('\n')}
      </pre>
      <div className="mt-2 flex gap-2">
        <button type="button" className="btn btn-sm" onClick={props.onTake}>
          Go on from theirs
        </button>
        <button type="button" className="btn btn-sm btn-outline" onClick={props.onOverwrite}>
          Save mine over it
        </button>
      </div>
    </section>
  );
}
