import { type CSSProperties, type ReactNode, useRef, useState } from 'react';
import { COLUMNS, GAP, ROW } from '../model';
import type { Panel, Switch } from '../types';
import { PanelFrame } from './PanelFrame';

/** What can be done with panels while the board is edited. */
export interface GridEdit {
  onPlace: (at: number, panel: Panel) => void;
  onWrite: (at: number) => void;
  onCopy: (at: number) => void;
  onRemove: (at: number) => void;
}

/** The panels on twelve columns; one below the other where there is no room. */
export function BoardGrid(props: {
  project: string;
  /** The ID of the board. */
  id: number;
  panels: readonly Panel[];
  board: Switch;
  edit: GridEdit | undefined;
  /** What a panel shows, in place of what this project's panels do; counted from 1. */
  view?: (panel: Panel, place: number, inNumbers: boolean) => ReactNode;
  /** Pixels of a row, where they are to fit a height. */
  rowHeight?: number;
}) {
  const grid = useRef<HTMLDivElement>(null);
  const [pulled, setPulled] = useState<{ at: number; panel: Panel }>();
  const order = props.panels
    .map((panel, at) => ({ panel, at }))
    .sort((a, b) => a.panel.y - b.panel.y || a.panel.x - b.panel.x);
  const pull = (at: number, panel: Panel, size: boolean) => (down: React.PointerEvent) => {
    const width = grid.current?.clientWidth;
    if (!props.edit || width === undefined || down.button !== 0) {
      return;
    }
    down.preventDefault();
    const column = (width + GAP) / COLUMNS;
    let last = panel;
    const move = (to: PointerEvent) => {
      const x = Math.round((to.clientX - down.clientX) / column);
      const y = Math.round((to.clientY - down.clientY) / (ROW + GAP));
      last = size
        ? { ...panel, width: panel.width + x, height: panel.height + y }
        : { ...panel, x: panel.x + x, y: panel.y + y };
      setPulled({ at, panel: last });
    };
    const up = () => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', up);
      setPulled(undefined);
      if (last !== panel) {
        props.edit?.onPlace(at, last);
      }
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', up);
  };
  return (
    <div className="p-5 print:p-0">
      <div
        ref={grid}
        className="board-grid grid grid-cols-1 min-[900px]:grid-cols-12"
        style={{ gap: GAP, '--row': `${props.rowHeight ?? ROW}px` } as CSSProperties}
      >
        {order.map(({ panel, at }) => {
          const shown = pulled?.at === at ? pulled.panel : panel;
          const rows = Math.max(1, shown.height);
          return (
            <PanelFrame
              // The place in the board's list is what a panel is known by.
              key={at}
              project={props.project}
              panel={panel}
              board={props.board}
              kept={{ board: props.id, place: at + 1 }}
              view={props.view ? (inNumbers) => props.view?.(panel, at + 1, inNumbers) : undefined}
              pulled={pulled?.at === at}
              style={{
                '--x': Math.min(COLUMNS, Math.max(1, shown.x + 1)),
                '--y': Math.max(1, shown.y + 1),
                '--w': Math.min(COLUMNS, Math.max(2, shown.width)),
                '--h': rows,
                '--tall': `${rows * (ROW + GAP) - GAP}px`,
              }}
              edit={
                props.edit
                  ? {
                      onPlace: (next) => props.edit?.onPlace(at, next),
                      onWrite: () => props.edit?.onWrite(at),
                      onCopy: () => props.edit?.onCopy(at),
                      onRemove: () => props.edit?.onRemove(at),
                      onPull: pull(at, panel, false),
                      onPullSize: pull(at, panel, true),
                    }
                  : undefined
              }
            />
          );
        })}
      </div>
    </div>
  );
}
