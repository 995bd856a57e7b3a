import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { EllipsisVertical } from 'lucide-react';
import { useRef, useState } from 'react';
import { useMayEdit, useOwns } from '../../../shared/session/may';
import { Wrong } from '../../../shared/ui/Form';
import { addBoard, boardKeys } from '../api';
import { taken } from '../file';
import type { Board } from '../types';
import { LinkDialog } from './LinkDialog';
import { WallDialog } from './WallDialog';

/** What can be done with a whole board. */
export function BoardMenu(props: {
  project: string;
  board: Board;
  onWall: (seconds: number, turns: string | undefined) => void;
}) {
  const { project, board } = props;
  const menu = useRef<HTMLDetailsElement>(null);
  const client = useQueryClient();
  const navigate = useNavigate();
  const mayEdit = useMayEdit(project);
  const owns = useOwns(project);
  const [asked, setAsked] = useState<'wall' | 'links'>();
  const close = () => {
    if (menu.current) menu.current.open = false;
  };
  const copying = useMutation({
    mutationFn: () => addBoard(project, `${board.name.slice(0, 92)} (copy)`, board.panels),
    onSuccess: (copy) => {
      void client.invalidateQueries({ queryKey: boardKeys.all(project) });
      void navigate({
        to: '/$project/boards/$board',
        params: { project, board: String(copy.id) },
        search: { edit: true },
      });
    },
  });
  return (
    <>
      <details ref={menu} className="dropdown dropdown-end">
        <summary
          className="btn btn-square btn-ghost btn-sm"
          aria-label="More of the board"
          title="More of the board"
        >
          <EllipsisVertical size={16} aria-hidden />
        </summary>
        <ul className="menu dropdown-content z-20 mt-1 w-52 rounded-box border border-base-300 bg-base-100 shadow-md">
          <li>
            <button
              type="button"
              onClick={() => {
                close();
                setAsked('wall');
              }}
            >
              On a wall …
            </button>
          </li>
          <li>
            <button
              type="button"
              onClick={() => {
                close();
                window.print();
              }}
            >
              Print, or as PDF …
            </button>
          </li>
          <li>
            <a
              download={`${board.name.replaceAll(/[^A-Za-z0-9-]+/g, '-')}.json`}
              href={`data:application/json;charset=utf-8,${encodeURIComponent(taken(board))}`}
              onClick={close}
            >
              Take along (JSON)
            </a>
          </li>
          {owns ? (
            <li>
              <button
                type="button"
                onClick={() => {
                  close();
                  setAsked('links');
                }}
              >
                Links for others …
              </button>
            </li>
          ) : null}
          {mayEdit ? (
            <li>
              <button
                type="button"
                disabled={copying.isPending}
                onClick={() => {
                  close();
                  copying.mutate();
                }}
              >
                Duplicate
              </button>
            </li>
          ) : null}
        </ul>
      </details>
      <Wrong error={copying.error} className="w-full text-sm" />
      {asked === 'links' ? (
        <LinkDialog project={project} board={board} onClose={() => setAsked(undefined)} />
      ) : null}
      {asked === 'wall' ? (
        <WallDialog
          project={project}
          board={board.id}
          onStart={(seconds, turns) => {
            setAsked(undefined);
            props.onWall(seconds, turns);
          }}
          onClose={() => setAsked(undefined)}
        />
      ) : null}
    </>
  );
}
