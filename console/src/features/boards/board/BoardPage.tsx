import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useBlocker, useNavigate } from '@tanstack/react-router';
import { useEffect, useState } from 'react';
import { FilterBox } from '../../../shared/filter/FilterBox';
import { useRunNews } from '../../../shared/runs/news';
import { useMayEdit } from '../../../shared/session/may';
import { watchPaper } from '../../../shared/sheets/paper';
import { AskTwice } from '../../../shared/ui/AskTwice';
import { Wrong } from '../../../shared/ui/Form';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { boardInFull, boardKeys, changeBoard, removeBoard } from '../api';
import { EditBar } from '../edit/EditBar';
import { PanelEditor } from '../edit/PanelEditor';
import { useDraft } from '../edit/useDraft';
import { type BoardSearch, newPanel, placed } from '../model';
import type { Board, Panel } from '../types';
import { BoardGrid } from './BoardGrid';
import { BoardMenu } from './BoardMenu';
import { LabelSwitches } from './LabelSwitches';
import { Wall } from './Wall';

const PERIODS: readonly (readonly [number, string])[] = [
  [7, '7 days'],
  [14, '14 days'],
  [30, '30 days'],
  [90, '90 days'],
  [365, 'a year'],
];

export function BoardPage(props: { project: string; board: number; search: BoardSearch }) {
  useRunNews(props.project);
  const client = useQueryClient();
  const { days, filter } = props.search;
  const board = useQuery(boardInFull(client, props.project, props.board, { days, filter }));
  if (board.error) {
    return <Failed page error={board.error} retry={() => board.refetch()} />;
  }
  return board.data === undefined ? (
    <Loading lines={8} />
  ) : (
    <Shown key={board.data.id} project={props.project} board={board.data} search={props.search} />
  );
}

function Shown(props: { project: string; board: Board; search: BoardSearch }) {
  const { project, board, search } = props;
  const navigate = useNavigate();
  const client = useQueryClient();
  const mayEdit = useMayEdit(project);
  const editing = mayEdit && search.edit === true;
  // What is edited is the board as it was when that began: a newer one, fetched meanwhile, must not
  // lend its version to what was made of an older one.
  const [base, setBase] = useState(board);
  const draft = useDraft(board.name, board.panels);
  const begin = (from: Board) => {
    setBase(from);
    draft.begin(from.name, from.panels);
  };
  useEffect(() => watchPaper(board.name), [board.name]);
  const [written, setWritten] = useState<number | 'new'>();
  const removing = useMutation({
    mutationFn: () => removeBoard(project, board.id),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: boardKeys.all(project) });
      void navigate({ to: '/$project/boards', params: { project } });
    },
  });
  const unkept = editing && draft.changed;
  useBlocker({
    shouldBlockFn: ({ current, next }) =>
      unkept &&
      current.pathname !== next.pathname &&
      !removing.isSuccess &&
      !window.confirm('What you changed on the board is not kept. Leave it all the same?'),
    enableBeforeUnload: unkept,
  });
  const go = (next: Partial<BoardSearch>) =>
    void navigate({
      to: '/$project/boards/$board',
      params: { project, board: String(board.id) },
      search: clean({ ...search, ...next }),
      replace: true,
    });
  const keeping = useMutation({
    onError: () => client.invalidateQueries({ queryKey: boardKeys.one(project, board.id) }),
    mutationFn: () => changeBoard(project, base, draft.now.name, [...draft.now.panels]),
    onSuccess: (kept) => {
      client.setQueryData(boardKeys.one(project, board.id), kept);
      void client.invalidateQueries({ queryKey: boardKeys.all(project) });
      begin(kept);
      go({ edit: undefined });
    },
  });
  const panels = editing ? draft.now.panels : board.panels;
  const put = (at: number | 'new', panel: Panel) => {
    draft.change({
      panels:
        at === 'new'
          ? placed([...draft.now.panels, panel], draft.now.panels.length, panel)
          : placed(draft.now.panels, at, panel),
    });
    setWritten(undefined);
  };
  if (search.wall !== undefined) {
    return (
      <Wall
        project={project}
        board={board}
        search={search}
        onLeave={() => {
          if (document.fullscreenElement) void document.exitFullscreen();
          go({ wall: undefined, turns: undefined });
        }}
      />
    );
  }
  return (
    <main className="min-h-0 grow overflow-y-auto print:overflow-visible">
      <PrintHead project={project} board={board} search={search} />
      <header className="print:hidden sticky top-0 z-10 border-b border-base-300 bg-base-100 px-5 pt-4 pb-3">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <h1 className="min-w-0 truncate font-serif text-2xl">{board.name}</h1>
          <Link to="/$project/boards" params={{ project }} className="link text-sm">
            all boards
          </Link>
          <span className="ml-auto flex flex-wrap items-center gap-3">
            <label className="flex items-center gap-2 text-sm">
              <span className="text-quiet">Period</span>
              <select
                className="select select-sm w-auto"
                value={search.days ?? ''}
                onChange={(e) =>
                  go({ days: e.target.value === '' ? undefined : Number(e.target.value) })
                }
              >
                <option value="">each panel’s own</option>
                {withOwn(search.days).map(([days, text]) => (
                  <option key={days} value={days}>
                    {text}
                  </option>
                ))}
              </select>
            </label>
            {editing ? null : (
              <BoardMenu
                project={project}
                board={board}
                onWall={(wall, turns) => go({ wall, turns })}
              />
            )}
            {mayEdit && !editing ? (
              <button
                type="button"
                className="btn btn-sm"
                onClick={() => {
                  begin(board);
                  go({ edit: true });
                }}
              >
                Edit
              </button>
            ) : null}
          </span>
        </div>
        {editing ? (
          <EditBar
            draft={draft}
            busy={keeping.isPending}
            error={keeping.error ?? removing.error}
            onAdd={() => setWritten('new')}
            onKeep={() => keeping.mutate()}
            onLeave={() => {
              begin(board);
              keeping.reset();
              go({ edit: undefined });
            }}
            remove={
              <AskTwice
                label="Remove the board"
                really="Remove it for everybody"
                onYes={() => removing.mutate()}
              />
            }
          />
        ) : (
          <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
            <LabelSwitches
              project={project}
              panels={panels}
              filter={search.filter ?? ''}
              onChange={(filter) => go({ filter: filter === '' ? undefined : filter })}
            />
            <div className="min-w-64 max-w-2xl grow">
              <FilterBox
                project={project}
                of="run"
                filter={search.filter ?? ''}
                onChange={(filter) => go({ filter: filter === '' ? undefined : filter })}
                placeholder='all panels by a filter of runs, as in label.team eq "fares"'
              />
            </div>
          </div>
        )}
        <Wrong error={removing.error} />
      </header>
      {panels.length === 0 ? (
        <Empty title="No panel yet">
          {editing ? 'Add one above.' : 'Edit the board to add some.'}
        </Empty>
      ) : (
        <BoardGrid
          project={project}
          id={board.id}
          panels={panels}
          board={{ days: search.days, filter: search.filter }}
          edit={
            editing
              ? {
                  onPlace: (at, panel) =>
                    draft.change({ panels: placed(draft.now.panels, at, panel) }),
                  onWrite: setWritten,
                  onRemove: (at) =>
                    draft.change({ panels: draft.now.panels.filter((_, i) => i !== at) }),
                  onCopy: (at) => {
                    const one = draft.now.panels[at];
                    if (one) {
                      const copy = { ...one, y: one.y + one.height };
                      draft.change({
                        panels: placed([...draft.now.panels, copy], draft.now.panels.length, copy),
                      });
                    }
                  },
                }
              : undefined
          }
        />
      )}
      {editing && written !== undefined ? (
        <PanelEditor
          project={project}
          panel={
            (written === 'new' ? undefined : draft.now.panels[written]) ??
            newPanel(draft.now.panels)
          }
          fresh={written === 'new'}
          onPut={(panel) => put(written, panel)}
          onClose={() => setWritten(undefined)}
        />
      ) : null}
    </main>
  );
}

/** At the top of the paper, in place of what is there to be pressed. */
function PrintHead(props: { project: string; board: Board; search: BoardSearch }) {
  const { days, filter } = props.search;
  return (
    <header className="hidden border-b border-base-300 pb-2 print:mb-3 print:block">
      <h1 className="font-serif text-2xl">{props.board.name}</h1>
      <p className="text-sm text-quiet">
        {props.project} · {new Date().toISOString().slice(0, 16).replace('T', ' ')} UTC
        {days === undefined ? '' : ` · ${days} days`}
        {filter === undefined ? '' : ` · ${filter}`}
      </p>
    </header>
  );
}

/** The periods on offer, with the one of the address. */
function withOwn(days: number | undefined): readonly (readonly [number, string])[] {
  return days === undefined || PERIODS.some(([one]) => one === days)
    ? PERIODS
    : [...PERIODS, [days, `${days} days`]];
}

function clean(search: BoardSearch): BoardSearch {
  return Object.fromEntries(Object.entries(search).filter(([, value]) => value !== undefined));
}
