import { useNavigate } from '@tanstack/react-router';
import { Pause, Play, X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { type BoardSearch, bottom, GAP, nextTurn } from '../model';
import type { Board } from '../types';
import { BoardGrid } from './BoardGrid';

const HEAD = 56;
const MARGIN = 20;
const LEAST_ROW = 44;
const LEAST_ZOOM = 0.4;

/** A board on a wall: nothing but the board, as high as the screen; then the next one. */
export function Wall(props: {
  project: string;
  board: Board;
  search: BoardSearch;
  onLeave: () => void;
}) {
  const { project, board, search, onLeave } = props;
  const navigate = useNavigate();
  const [height, setHeight] = useState(window.innerHeight);
  const [held, setHeld] = useState(false);
  const next = nextTurn(search.turns, board.id);
  useEffect(() => {
    const measure = () => setHeight(window.innerHeight);
    window.addEventListener('resize', measure);
    return () => window.removeEventListener('resize', measure);
  }, []);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'Escape') onLeave();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [onLeave]);
  useEffect(() => {
    if (held || next === board.id || search.wall === undefined) {
      return;
    }
    const timer = setTimeout(
      () =>
        void navigate({
          to: '/$project/boards/$board',
          params: { project, board: String(next) },
          search,
          replace: true,
        }),
      search.wall * 1000,
    );
    return () => clearTimeout(timer);
  }, [held, next, board.id, search, project, navigate]);
  const rows = bottom(board.panels);
  const room = height - HEAD - 2 * MARGIN;
  const row = Math.max(LEAST_ROW, Math.floor((room + GAP) / Math.max(1, rows)) - GAP);
  // Nobody scrolls a wall: a board that is too high for it is shown smaller.
  const zoom = Math.max(LEAST_ZOOM, Math.min(1, room / (rows * (row + GAP))));
  return (
    <main className="on-wall fixed inset-0 z-50 overflow-y-auto bg-base-200">
      <header className="flex h-14 items-center gap-4 border-b border-base-300 bg-base-100 px-5">
        <h1 className="min-w-0 truncate font-serif text-2xl">{board.name}</h1>
        <span className="ml-auto flex items-center gap-1">
          {next === board.id ? null : (
            <button
              type="button"
              className="btn btn-square btn-ghost btn-sm"
              aria-pressed={held}
              aria-label={held ? 'Go on to the next board' : 'Stay on this board'}
              title={held ? 'Go on to the next board' : 'Stay on this board'}
              onClick={() => setHeld(!held)}
            >
              {held ? <Play size={16} aria-hidden /> : <Pause size={16} aria-hidden />}
            </button>
          )}
          <button
            type="button"
            className="btn btn-square btn-ghost btn-sm"
            aria-label="Leave the wall"
            title="Leave the wall (Esc)"
            onClick={onLeave}
          >
            <X size={16} aria-hidden />
          </button>
        </span>
      </header>
      <div style={{ zoom }}>
        <BoardGrid
          project={project}
          id={board.id}
          panels={board.panels}
          board={{ days: search.days, filter: search.filter }}
          edit={undefined}
          rowHeight={row}
        />
      </div>
    </main>
  );
}
