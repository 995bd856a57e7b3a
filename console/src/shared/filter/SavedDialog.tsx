import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { type FormEvent, useState } from 'react';
import { useMayEdit } from '../session/may';
import { Dialog } from '../ui/Dialog';
import { TextField, Wrong } from '../ui/Form';
import { addFilter, type FilterThing, savedKey, savedQuery } from './api';

/** Filters under a name: one is chosen, or the present one gets a name. */
export function SavedDialog(props: {
  project: string;
  of: FilterThing;
  filter: string;
  onChoose: (filter: string) => void;
  onClose: () => void;
}) {
  const { project } = props;
  const saved = useQuery(savedQuery(project));
  const fitting = saved.data?.filter((one) => one.of === props.of) ?? [];
  return (
    <Dialog title="Saved filters" onClose={props.onClose}>
      {fitting.length === 0 ? (
        <p className="mt-3 text-quiet">
          {saved.error
            ? saved.error.message
            : saved.isPending
              ? ''
              : `There is no saved filter of ${props.of}s yet.`}
        </p>
      ) : (
        <ul className="mt-3 max-h-72 overflow-y-auto border-t border-base-300">
          {fitting.map((one) => (
            <li key={one.id} className="border-b border-base-300">
              <button
                type="button"
                className="w-full px-2 py-2 text-left hover:bg-base-200"
                onClick={() => props.onChoose(one.reference)}
              >
                <span className="flex items-baseline gap-2">
                  <span className="min-w-0 truncate font-semibold">{one.name}</span>
                  {one.mine ? <span className="badge badge-sm">mine</span> : null}
                </span>
                <code className="block truncate text-[13px] text-quiet">{one.filter}</code>
              </button>
            </li>
          ))}
        </ul>
      )}
      {props.filter === '' ? null : <Save {...props} />}
      <div className="mt-4 flex items-baseline justify-between">
        <Link
          to="/$project/filters"
          params={{ project }}
          className="link text-sm"
          onClick={props.onClose}
        >
          Change, rename, take along
        </Link>
        <button type="button" className="btn btn-ghost btn-sm" onClick={props.onClose}>
          Close
        </button>
      </div>
    </Dialog>
  );
}

function Save(props: {
  project: string;
  of: FilterThing;
  filter: string;
  onChoose: (filter: string) => void;
}) {
  const { project } = props;
  const client = useQueryClient();
  const mayShare = useMayEdit(project);
  const [name, setName] = useState('');
  const [shared, setShared] = useState(false);
  const saving = useMutation({
    mutationFn: () => addFilter(project, !shared, { name, of: props.of, filter: props.filter }),
    onSuccess: (one) => {
      void client.invalidateQueries({ queryKey: savedKey(project) });
      props.onChoose(one.reference);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    // The box that it was opened from stands in a form, perhaps.
    event.stopPropagation();
    saving.mutate();
  };
  return (
    <form onSubmit={submit} className="mt-4 rounded-box border border-base-300 bg-base-200 p-3">
      <p className="text-sm">
        Save <code className="text-[13px] break-words">{props.filter}</code>
      </p>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <TextField label="Name" value={name} onChange={setName} className="grow" />
        <button type="submit" className="btn btn-primary" disabled={saving.isPending}>
          Save it
        </button>
      </div>
      {mayShare ? (
        <label className="mt-2 flex items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={shared}
            onChange={(e) => setShared(e.target.checked)}
          />
          for all of the project
        </label>
      ) : null}
      <Wrong error={saving.error} />
    </form>
  );
}
