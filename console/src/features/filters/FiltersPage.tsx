import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import { type ChangeEvent, type FormEvent, useRef, useState } from 'react';
import {
  addFilter,
  changeFilter,
  type FilterThing,
  removeFilter,
  type SavedFilter,
  savedKey,
  savedQuery,
  usesQuery,
} from '../../shared/filter/api';
import { FilterBox } from '../../shared/filter/FilterBox';
import { useMayEdit } from '../../shared/session/may';
import { AskTwice } from '../../shared/ui/AskTwice';
import { TextField, Wrong } from '../../shared/ui/Form';
import { RelativeTime } from '../../shared/ui/RelativeTime';
import { Failed, Loading } from '../../shared/ui/States';
import { brought, taken } from './file';

/** Filters under a name: what they pick, where they are used, and what can be done with them. */
export function FiltersPage({ project }: { project: string }) {
  const saved = useQuery(savedQuery(project));
  const [open, setOpen] = useState<number>();
  if (saved.error) {
    return <Failed page error={saved.error} retry={() => saved.refetch()} />;
  }
  if (saved.data === undefined) {
    return <Loading lines={8} />;
  }
  return (
    <main className="min-h-0 grow overflow-y-auto">
      <div className="mx-auto max-w-4xl space-y-6 px-6 py-6">
        <header className="flex flex-wrap items-end gap-x-6 gap-y-2">
          <div>
            <h1 className="font-serif text-3xl">Saved filters</h1>
            <p className="mt-1 text-quiet">
              Each can be named wherever a filter is written, as in{' '}
              <code className="text-[13px]">saved eq "Nights"</code>.
            </p>
          </div>
          <TakeAlong project={project} filters={saved.data} />
        </header>
        {saved.data.length === 0 ? (
          <p className="text-quiet">
            There is none yet. Write a filter above any list, and save it with the bookmark beside
            it.
          </p>
        ) : (
          <ul className="border-t border-base-300">
            {saved.data.map((one) => (
              <li key={one.id} className="border-b border-base-300 py-3">
                <div className="flex items-baseline gap-3">
                  <button
                    type="button"
                    aria-expanded={open === one.id}
                    className="link-hover min-w-0 truncate text-base font-semibold"
                    onClick={() => setOpen(open === one.id ? undefined : one.id)}
                  >
                    {one.name}
                  </button>
                  <span className="shrink-0 text-sm text-quiet">of {one.of}s</span>
                  {one.mine ? <span className="badge badge-sm shrink-0">mine</span> : null}
                  <span className="ml-auto shrink-0 text-sm text-quiet">
                    changed <RelativeTime iso={one.changedAt} />
                    {one.mine ? '' : ` by ${one.changedBy}`}
                  </span>
                </div>
                <code className="mt-0.5 block text-[13px] break-words">{one.filter}</code>
                {open === one.id ? (
                  <Change
                    key={one.version}
                    project={project}
                    filter={one}
                    onDone={() => setOpen(undefined)}
                  />
                ) : null}
              </li>
            ))}
          </ul>
        )}
      </div>
    </main>
  );
}

/** Where it shows what it picks. */
function useShow(project: string, filter: SavedFilter): () => void {
  const navigate = useNavigate();
  return () => {
    switch (filter.of) {
      case 'test':
        return void navigate({
          to: '/$project/tests',
          params: { project },
          search: { filter: filter.reference },
        });
      case 'group':
        return void navigate({
          to: '/$project/triage',
          params: { project },
          search: { show: 'all', days: 0, filter: filter.reference },
        });
      default:
        return void navigate({
          to: '/$project/found',
          params: { project },
          search: { of: filter.of, filter: filter.reference },
        });
    }
  };
}

function Change(props: { project: string; filter: SavedFilter; onDone: () => void }) {
  const { project, filter } = props;
  const client = useQueryClient();
  const mayShare = useMayEdit(project);
  const may = filter.mine || mayShare;
  const uses = useQuery(usesQuery(project, filter.id));
  const show = useShow(project, filter);
  const [name, setName] = useState(filter.name);
  const [text, setText] = useState(filter.filter);
  const said = { name, of: filter.of, filter: text };
  const after = {
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: savedKey(project) });
      void client.invalidateQueries({ queryKey: ['boards', project] });
      void client.invalidateQueries({ queryKey: ['runs', project] });
      props.onDone();
    },
  };
  const changing = useMutation({
    mutationFn: (mine: boolean) => changeFilter(project, filter, mine, said),
    ...after,
  });
  const copying = useMutation({
    mutationFn: () =>
      addFilter(project, !mayShare || filter.mine, {
        ...said,
        name: `${name} (copy)`.slice(0, 100),
      }),
    ...after,
  });
  const removing = useMutation({ mutationFn: () => removeFilter(project, filter), ...after });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    changing.mutate(filter.mine);
  };
  const used = uses.data ?? [];
  return (
    <form onSubmit={submit} className="mt-3 space-y-3 rounded-box bg-base-200 p-4">
      {used.length === 0 ? (
        <p className="text-sm text-quiet">{uses.data === undefined ? '' : 'Nothing names it.'}</p>
      ) : (
        <p className="text-sm">
          A change changes what names it:{' '}
          {used.map((one, i) => (
            <span key={one.text}>
              {i > 0 ? ', ' : ''}
              {one.board === null ? (
                one.text
              ) : (
                <Link
                  to="/$project/boards/$board"
                  params={{ project, board: String(one.board) }}
                  className="link"
                >
                  {one.text}
                </Link>
              )}
            </span>
          ))}
          .
        </p>
      )}
      {may ? (
        <>
          <TextField label="Name" value={name} onChange={setName} className="max-w-md" />
          <FilterBox
            project={project}
            of={filter.of as FilterThing}
            filter={text}
            onChange={setText}
            exact
            placeholder="what it picks"
          />
        </>
      ) : null}
      <Wrong error={uses.error ?? changing.error ?? copying.error ?? removing.error} />
      <div className="flex flex-wrap gap-2">
        {may ? (
          <button
            type="submit"
            className="btn btn-primary btn-sm"
            disabled={
              changing.isPending || (name === filter.name && text === filter.filter) || text === ''
            }
          >
            Change it
          </button>
        ) : null}
        <button type="button" className="btn btn-sm" onClick={show}>
          Show what it picks
        </button>
        <button
          type="button"
          className="btn btn-sm"
          disabled={copying.isPending}
          onClick={() => copying.mutate()}
        >
          Duplicate
        </button>
        {filter.mine && mayShare ? (
          <button
            type="button"
            className="btn btn-sm"
            disabled={changing.isPending}
            onClick={() => changing.mutate(false)}
          >
            Share with the project
          </button>
        ) : null}
        {may ? (
          <span className="ml-auto">
            <AskTwice
              label="Remove"
              really={filter.mine ? 'Remove it' : 'Remove it for everybody'}
              disabled={used.length > 0 || removing.isPending}
              onYes={() => removing.mutate()}
            />
          </span>
        ) : null}
      </div>
    </form>
  );
}

/** Saved filters as a file, and from one. */
function TakeAlong({ project, filters }: { project: string; filters: SavedFilter[] }) {
  const client = useQueryClient();
  const mayShare = useMayEdit(project);
  const file = useRef<HTMLInputElement>(null);
  const bringing = useMutation({
    mutationFn: async (chosen: File) => {
      const said = brought(await chosen.text());
      let made = 0;
      try {
        for (const one of said) {
          await addFilter(project, !mayShare, one);
          made++;
        }
      } catch (error) {
        const left = said.length - made;
        throw new Error(
          `${made} of ${said.length} were kept. “${said[made]?.name}” and what stands behind it (${left}) were not: ${
            error instanceof Error ? error.message : String(error)
          }`,
        );
      } finally {
        void client.invalidateQueries({ queryKey: savedKey(project) });
      }
    },
  });
  const choose = (event: ChangeEvent<HTMLInputElement>) => {
    const chosen = event.target.files?.[0];
    if (chosen) bringing.mutate(chosen);
    event.target.value = '';
  };
  return (
    <div className="ml-auto flex flex-wrap gap-2">
      <a
        className={`btn btn-sm ${filters.length === 0 ? 'btn-disabled' : ''}`}
        download={`${project}-filters.json`}
        href={`data:application/json;charset=utf-8,${encodeURIComponent(taken(filters))}`}
      >
        Take along (JSON)
      </a>
      <button type="button" className="btn btn-sm" onClick={() => file.current?.click()}>
        Bring in
      </button>
      <input
        ref={file}
        type="file"
        accept="application/json,.json"
        className="hidden"
        aria-label="A file of saved filters"
        onChange={choose}
      />
      <Wrong error={bringing.error} className="w-full text-sm" />
    </div>
  );
}
