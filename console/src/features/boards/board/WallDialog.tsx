import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { Dialog, DialogActions } from '../../../shared/ui/Dialog';
import { boardsQuery } from '../api';
import { LEAST_SECONDS, MOST_SECONDS } from '../model';

const USUAL = 30;

/** Which boards take turns on a wall, and for how long each. */
export function WallDialog(props: {
  project: string;
  board: number;
  onStart: (seconds: number, turns: string | undefined) => void;
  onClose: () => void;
}) {
  const boards = useQuery(boardsQuery(props.project));
  const [chosen, setChosen] = useState<readonly number[]>([props.board]);
  const [seconds, setSeconds] = useState(String(USUAL));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const all = boards.data?.map((one) => one.id).filter((id) => chosen.includes(id)) ?? [];
    // Has to follow a press of a button; where it cannot be had the page goes without.
    void document.documentElement.requestFullscreen?.().catch(() => undefined);
    props.onStart(Number(seconds), all.length > 1 ? all.join(',') : undefined);
  };
  return (
    <Dialog title="On a wall" onClose={props.onClose}>
      <form onSubmit={submit}>
        <fieldset className="mt-3 max-h-72 overflow-y-auto">
          <legend className="text-sm font-semibold">Boards that take turns</legend>
          {boards.data?.map((one) => (
            <label key={one.id} className="flex items-center gap-2 py-1">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={chosen.includes(one.id)}
                disabled={one.id === props.board}
                onChange={(e) =>
                  setChosen(
                    e.target.checked ? [...chosen, one.id] : chosen.filter((id) => id !== one.id),
                  )
                }
              />
              <span className="min-w-0 truncate">{one.name}</span>
            </label>
          ))}
        </fieldset>
        {chosen.length > 1 ? (
          <label className="mt-3 flex items-center gap-2">
            <input
              type="number"
              className="input input-sm w-24"
              min={LEAST_SECONDS}
              max={MOST_SECONDS}
              value={seconds}
              onChange={(e) => setSeconds(e.target.value)}
              required
            />
            seconds each
          </label>
        ) : null}
        <DialogActions label="Show" disabled={false} onCancel={props.onClose} />
      </form>
    </Dialog>
  );
}
