import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import { type FormEvent, useRef, useState } from 'react';
import { plural } from '../../../shared/lib/format';
import { streamsQuery } from '../../../shared/runs/api';
import { useMayEdit } from '../../../shared/session/may';
import { SelectField, TextField, Wrong } from '../../../shared/ui/Form';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { Failed, Loading } from '../../../shared/ui/States';
import { addBoard, addReady, boardKeys, boardsQuery, readyQuery } from '../api';
import { brought } from '../file';
import type { ReadyBoard } from '../types';

/** The boards of a project, and those to begin with. */
export function BoardsPage({ project }: { project: string }) {
  const boards = useQuery(boardsQuery(project));
  const mayEdit = useMayEdit(project);
  if (boards.error) {
    return <Failed page error={boards.error} retry={() => boards.refetch()} />;
  }
  if (boards.data === undefined) {
    return <Loading lines={8} />;
  }
  return (
    <main className="min-h-0 grow overflow-y-auto">
      <div className="mx-auto max-w-4xl space-y-8 px-6 py-6">
        <header>
          <h1 className="font-serif text-3xl">Boards</h1>
          <p className="mt-1 text-quiet">
            Where things are going; every number leads to what it counts.{' '}
            <Link to="/$project/filters" params={{ project }} className="link">
              Saved filters
            </Link>
            {' · '}
            <Link to="/$project/reports" params={{ project }} className="link">
              Reports over time
            </Link>
          </p>
        </header>
        {boards.data.length === 0 ? (
          <p className="text-quiet">
            There is no board yet.
            {mayEdit
              ? ' Begin with one of those below.'
              : ' A contributor of the project can make one.'}
          </p>
        ) : (
          <ul className="border-t border-base-300">
            {boards.data.map((board) => (
              <li
                key={board.id}
                className="flex items-baseline gap-4 border-b border-base-300 py-2.5"
              >
                <Link
                  to="/$project/boards/$board"
                  params={{ project, board: String(board.id) }}
                  className="link-hover min-w-0 truncate text-base font-semibold"
                >
                  {board.name}
                </Link>
                <span className="shrink-0 text-quiet">{plural(board.panels, 'panel')}</span>
                <span className="ml-auto shrink-0 text-sm text-quiet">
                  changed <RelativeTime iso={board.changedAt} /> by {board.changedBy}
                </span>
              </li>
            ))}
          </ul>
        )}
        {mayEdit ? (
          <>
            <Begin project={project} />
            <BringIn project={project} />
          </>
        ) : null}
      </div>
    </main>
  );
}

/** A board from a file, as it was taken along here or elsewhere. */
function BringIn({ project }: { project: string }) {
  const file = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const client = useQueryClient();
  const bringing = useMutation({
    mutationFn: async (chosen: File) => {
      const { name, panels } = brought(await chosen.text());
      return addBoard(project, name, panels);
    },
    onSuccess: (board) => {
      void client.invalidateQueries({ queryKey: boardKeys.all(project) });
      void navigate({
        to: '/$project/boards/$board',
        params: { project, board: String(board.id) },
      });
    },
  });
  return (
    <section aria-label="A board from a file">
      <button type="button" className="btn btn-sm" onClick={() => file.current?.click()}>
        Bring in a board (JSON)
      </button>
      <input
        ref={file}
        type="file"
        accept="application/json,.json"
        className="hidden"
        aria-label="A file with a board"
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) bringing.mutate(chosen);
          event.target.value = '';
        }}
      />
      <Wrong error={bringing.error} className="mt-2" />
    </section>
  );
}

const EMPTY: ReadyBoard = {
  word: '',
  title: 'An empty board',
  meaning: 'panels of your own from the start',
};

function Begin({ project }: { project: string }) {
  const ready = useQuery(readyQuery(project));
  const streams = useQuery(streamsQuery(project));
  const navigate = useNavigate();
  const client = useQueryClient();
  const [chosen, setChosen] = useState<ReadyBoard>();
  const [typed, setTyped] = useState<string>();
  const [selected, setSelected] = useState<string>();
  // A board of one stream is of the first one, and called after it, until somebody says otherwise.
  const stream = selected ?? (chosen?.word === 'stream' ? (streams.data?.[0]?.name ?? '') : '');
  const name = typed ?? (stream !== '' ? stream : (chosen?.title ?? ''));
  const adding = useMutation({
    mutationFn: (one: ReadyBoard) =>
      one.word === ''
        ? addBoard(project, name, [])
        : addReady(project, one.word, name, stream === '' ? null : stream),
    onSuccess: (board) => {
      void client.invalidateQueries({ queryKey: boardKeys.all(project) });
      void navigate({
        to: '/$project/boards/$board',
        params: { project, board: String(board.id) },
        search: board.panels.length === 0 ? { edit: true } : {},
      });
    },
  });
  const choose = (one: ReadyBoard) => {
    setChosen(one);
    setTyped(undefined);
    setSelected(undefined);
    adding.reset();
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (chosen) {
      adding.mutate(chosen);
    }
  };
  return (
    <section aria-label="A new board">
      <h2 className="font-serif text-xl">A new board</h2>
      <ul className="mt-3 grid gap-3 min-[700px]:grid-cols-2">
        {[...(ready.data ?? []), EMPTY].map((one) => (
          <li key={one.word}>
            <button
              type="button"
              aria-pressed={chosen?.word === one.word}
              onClick={() => choose(one)}
              className={`h-full w-full rounded-box border px-4 py-3 text-left ${
                chosen?.word === one.word
                  ? 'border-primary bg-base-200'
                  : 'border-base-300 hover:bg-base-200'
              }`}
            >
              <span className="block font-semibold">{one.title}</span>
              <span className="block text-[15px] text-quiet first-letter:uppercase">
                {one.meaning}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {chosen ? (
        <form onSubmit={submit} className="mt-4 flex flex-wrap items-end gap-3">
          <TextField label="Name" value={name} onChange={setTyped} className="w-72" />
          {chosen.word === '' ? null : (
            <SelectField
              label="Stream"
              value={stream}
              onChange={setSelected}
              options={[
                ['', 'all streams'],
                ...(streams.data ?? []).map((one) => [one.name, one.name] as const),
              ]}
              className="w-72"
            />
          )}
          <button type="submit" className="btn btn-primary" disabled={adding.isPending}>
            Make it
          </button>
          <Wrong error={adding.error} className="w-full" />
        </form>
      ) : null}
    </section>
  );
}
