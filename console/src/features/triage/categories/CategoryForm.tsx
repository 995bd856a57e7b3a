import { type FormEvent, useId, useState } from 'react';
import { COLOURS } from '../../../shared/triage/CategoryMark';
import { Wrong } from '../../../shared/ui/Form';
import type { CategoryDraft } from './api';

/** Writes a category, in its place. */
export function CategoryForm(props: {
  draft: CategoryDraft;
  /** Names of others. */
  taken: string[];
  busy: boolean;
  error: Error | null;
  onKeep: (draft: CategoryDraft) => void;
  onCancel: () => void;
}) {
  const [draft, setDraft] = useState<CategoryDraft>({
    name: props.draft.name,
    colour: props.draft.colour,
    counts: props.draft.counts,
    retired: props.draft.retired,
  });
  const id = useId();
  const isNew = props.draft.name === '';
  const name = draft.name.trim();
  const taken = props.taken.some((one) => one.toLowerCase() === name.toLowerCase());
  const submit = (event: FormEvent) => {
    event.preventDefault();
    props.onKeep(draft);
  };
  return (
    <form onSubmit={submit} className="space-y-3 bg-base-200/60 px-4 py-3">
      <div className="flex flex-wrap items-end gap-4">
        <div className="grow">
          <label htmlFor={id} className="text-sm font-semibold">
            Name
          </label>
          <input
            id={id}
            className="input mt-1 w-full"
            maxLength={60}
            // biome-ignore lint/a11y/noAutofocus: it was opened to be written in
            autoFocus
            value={draft.name}
            onChange={(e) => setDraft({ ...draft, name: e.target.value })}
          />
        </div>
        <fieldset className="flex h-10 items-center gap-2">
          <legend className="sr-only">Colour</legend>
          {Object.entries(COLOURS).map(([colour, bg]) => (
            <label
              key={colour}
              title={colour}
              className={`relative cursor-pointer rounded-full border-2 p-0.5 has-focus-visible:outline-2 has-focus-visible:outline-offset-2 ${
                draft.colour === colour ? 'border-base-content' : 'border-transparent'
              }`}
            >
              <input
                type="radio"
                name={`${id}-colour`}
                className="absolute inset-0 cursor-pointer opacity-0"
                aria-label={colour}
                checked={draft.colour === colour}
                onChange={() => setDraft({ ...draft, colour })}
              />
              <span aria-hidden className={`block size-4 rounded-full ${bg}`} />
            </label>
          ))}
        </fieldset>
      </div>
      <div className="flex flex-wrap gap-x-6 gap-y-2">
        <Check
          label="counts against a gate"
          value={draft.counts}
          onChange={(counts) => setDraft({ ...draft, counts })}
        />
        {isNew ? null : (
          <Check
            label="retired: not offered any more"
            value={draft.retired}
            onChange={(retired) => setDraft({ ...draft, retired })}
          />
        )}
        <span className="ml-auto flex gap-2">
          <button type="button" className="btn btn-ghost btn-sm" onClick={props.onCancel}>
            Cancel
          </button>
          <button
            type="submit"
            className="btn btn-primary btn-sm"
            disabled={props.busy || name === '' || taken}
          >
            Save
          </button>
        </span>
      </div>
      {taken ? <p className="text-sm text-error">Another category is called “{name}”.</p> : null}
      <Wrong error={props.error} />
    </form>
  );
}

function Check(props: { label: string; value: boolean; onChange: (value: boolean) => void }) {
  return (
    <label className="flex items-center gap-2 text-sm">
      <input
        type="checkbox"
        className="checkbox checkbox-sm"
        checked={props.value}
        onChange={(e) => props.onChange(e.target.checked)}
      />
      {props.label}
    </label>
  );
}
