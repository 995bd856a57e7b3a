import { Plus, Redo2, Undo2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { Wrong } from '../../../shared/ui/Form';
import type { Draft } from './useDraft';

/** What stands above a board that is edited. */
export function EditBar(props: {
  draft: Draft;
  busy: boolean;
  error: Error | null;
  onAdd: () => void;
  onKeep: () => void;
  onLeave: () => void;
  remove: ReactNode;
}) {
  const { draft } = props;
  return (
    <div className="mt-2">
      <div className="flex flex-wrap items-center gap-2">
        <label className="flex items-center gap-2 text-sm">
          <span className="text-quiet">Name</span>
          <input
            className="input input-sm w-64"
            value={draft.now.name}
            maxLength={100}
            onChange={(e) => draft.change({ name: e.target.value })}
          />
        </label>
        <button type="button" className="btn btn-sm gap-1" onClick={props.onAdd}>
          <Plus size={15} aria-hidden /> Add a panel
        </button>
        <button
          type="button"
          className="btn btn-sm btn-ghost btn-square"
          aria-label="Take the last step back"
          title="Take the last step back"
          disabled={!draft.undo}
          onClick={draft.undo}
        >
          <Undo2 size={15} aria-hidden />
        </button>
        <button
          type="button"
          className="btn btn-sm btn-ghost btn-square"
          aria-label="Do it again"
          title="Do it again"
          disabled={!draft.redo}
          onClick={draft.redo}
        >
          <Redo2 size={15} aria-hidden />
        </button>
        <span className="ml-auto flex items-center gap-2">
          {props.remove}
          <button type="button" className="btn btn-sm btn-ghost" onClick={props.onLeave}>
            {draft.changed ? 'Leave it as it was' : 'Done'}
          </button>
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={!draft.changed || props.busy}
            onClick={props.onKeep}
          >
            Keep it
          </button>
        </span>
      </div>
      <Wrong error={props.error} className="mt-2" />
    </div>
  );
}
