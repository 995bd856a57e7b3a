import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, type ReactNode, useState } from 'react';
import { runsChanged } from '../../../shared/runs/keys';
import { Dialog } from '../../../shared/ui/Dialog';
import { Wrong } from '../../../shared/ui/Form';

/** Asks before something is taken away for good; its name has to be typed. */
export function DeleteDialog(props: {
  project: string;
  title: string;
  /** What is typed to say that it is meant. */
  name: string;
  onDelete: () => Promise<void>;
  onDeleted: () => void;
  onClose: () => void;
  /** What goes. */
  children: ReactNode;
}) {
  const client = useQueryClient();
  const [typed, setTyped] = useState('');
  const remove = useMutation({
    mutationFn: props.onDelete,
    onSuccess: async () => {
      props.onDeleted();
      await runsChanged(client, props.project);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    remove.mutate();
  };
  return (
    <Dialog title={props.title} onClose={props.onClose}>
      <form onSubmit={submit} className="mt-3 space-y-3">
        <p>{props.children}</p>
        <label className="block">
          <span className="text-sm">
            To delete it, type <strong className="break-all">{props.name}</strong>
          </span>
          <input
            className="input input-sm mt-1 w-full"
            value={typed}
            autoComplete="off"
            onChange={(event) => setTyped(event.target.value)}
          />
        </label>
        <Wrong error={remove.error} className="" />
        <div className="modal-action">
          <button type="button" className="btn btn-sm btn-ghost" onClick={props.onClose}>
            Keep it
          </button>
          <button
            type="submit"
            className="btn btn-error btn-sm"
            disabled={typed.trim() !== props.name || remove.isPending}
          >
            Delete for good
          </button>
        </div>
      </form>
    </Dialog>
  );
}
