import { Copy, MoveDiagonal2, Pencil, Table2, Trash2 } from 'lucide-react';
import { type CSSProperties, type PointerEvent, type ReactNode, useId, useState } from 'react';
import { plural } from '../../../shared/lib/format';
import { isTable, titleOf } from '../model';
import { Download } from '../panel/Download';
import { PanelView } from '../panel/PanelView';
import type { Panel, Switch } from '../types';

export interface FrameEdit {
  onPlace: (panel: Panel) => void;
  onWrite: () => void;
  onCopy: () => void;
  onRemove: () => void;
  onPull: (down: PointerEvent) => void;
  onPullSize: (down: PointerEvent) => void;
}

const MOVES: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** A panel with its title; while the board is edited, with what moves and changes it. */
export function PanelFrame(props: {
  project: string;
  panel: Panel;
  board: Switch;
  /** The board that it is on, as it is kept, and which of its panels this is, from 1. */
  kept: { board: number; place: number };
  /** What is shown in place of what this project's panels show. */
  view?: ((inNumbers: boolean) => ReactNode) | undefined;
  pulled: boolean;
  style: Record<string, number | string>;
  edit: FrameEdit | undefined;
}) {
  const { panel, edit } = props;
  const [numbers, setNumbers] = useState(false);
  const title = useId();
  const drawn = panel.kind !== 'text' && !isTable(panel.kind);
  const onKey = (event: React.KeyboardEvent) => {
    const step = MOVES[event.key];
    if (step && edit) {
      event.preventDefault();
      event.stopPropagation();
      const [x, y] = step;
      edit.onPlace(
        event.shiftKey
          ? { ...panel, width: panel.width + x, height: panel.height + y }
          : { ...panel, x: panel.x + x, y: panel.y + y },
      );
    }
  };
  return (
    <section
      aria-labelledby={title}
      style={props.style as CSSProperties}
      data-drawn={drawn || undefined}
      className={`board-panel relative flex min-h-0 min-w-0 flex-col rounded-box border bg-base-100 px-4 py-3 ${
        props.pulled ? 'z-10 border-primary opacity-80 shadow-lg' : 'border-base-300'
      }`}
    >
      <header className="mb-1.5 flex h-6 shrink-0 items-center gap-2">
        {edit ? (
          <button
            type="button"
            className="min-w-0 cursor-move touch-none truncate text-left font-semibold"
            onPointerDown={edit.onPull}
            onKeyDown={onKey}
            title="Pull it, or move it with the arrow keys; with Shift they change its size"
          >
            <span id={title}>{titleOf(panel)}</span>
          </button>
        ) : (
          <h2 id={title} className="min-w-0 truncate font-semibold" title={titleOf(panel)}>
            {titleOf(panel)}
          </h2>
        )}
        {panel.kind === 'text' || panel.kind === 'latest' ? null : (
          <span className="shrink-0 text-[13px] text-quiet">
            {panel.project === null ? '' : `${panel.project} · `}
            {plural(props.board.days ?? panel.days, 'day')}
          </span>
        )}
        <span className="ml-auto flex shrink-0 gap-0.5 print:hidden [.on-wall_&]:hidden">
          {edit ? (
            <>
              <Button label={`Change ${titleOf(panel)}`} onClick={edit.onWrite}>
                <Pencil size={14} aria-hidden />
              </Button>
              <Button label={`Copy ${titleOf(panel)}`} onClick={edit.onCopy}>
                <Copy size={14} aria-hidden />
              </Button>
              <Button label={`Remove ${titleOf(panel)}`} onClick={edit.onRemove}>
                <Trash2 size={14} aria-hidden />
              </Button>
            </>
          ) : panel.kind === 'text' ? null : (
            <>
              {drawn ? (
                <Button
                  label={`${titleOf(panel)} in numbers`}
                  pressed={numbers}
                  onClick={() => setNumbers(!numbers)}
                >
                  <Table2 size={14} aria-hidden />
                </Button>
              ) : null}
              {props.view ? null : (
                <Download
                  project={props.project}
                  board={props.kept.board}
                  place={props.kept.place}
                  panel={panel}
                  switched={props.board}
                />
              )}
            </>
          )}
        </span>
      </header>
      {panel.kind !== 'text' && panel.text !== '' ? (
        <p className="mb-1 shrink-0 truncate text-[13px] text-quiet" title={panel.text}>
          {panel.text}
        </p>
      ) : null}
      {/* While the board is edited a slip of the hand leads nowhere. */}
      <div inert={edit !== undefined} className="flex min-h-0 grow flex-col">
        {props.view ? (
          props.view(numbers && drawn)
        ) : (
          <PanelView
            project={props.project}
            panel={panel}
            board={props.board}
            inNumbers={numbers && drawn}
          />
        )}
      </div>
      {edit ? (
        <span
          aria-hidden
          onPointerDown={edit.onPullSize}
          className="absolute right-0.5 bottom-0.5 cursor-nwse-resize touch-none p-1 text-quiet max-[899px]:hidden"
        >
          <MoveDiagonal2 size={13} />
        </span>
      ) : null}
    </section>
  );
}

function Button(props: {
  label: string;
  pressed?: boolean;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      className={`btn btn-xs btn-square ${props.pressed ? 'btn-neutral' : 'btn-ghost'}`}
      aria-label={props.label}
      title={props.label}
      {...(props.pressed === undefined ? {} : { 'aria-pressed': props.pressed })}
      onClick={props.onClick}
    >
      {props.children}
    </button>
  );
}
