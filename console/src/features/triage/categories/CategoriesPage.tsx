import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { ChevronDown, ChevronUp } from 'lucide-react';
import { useState } from 'react';
import { useMayEdit } from '../../../shared/session/may';
import { type Category, categoriesQuery, useDecided } from '../../../shared/triage/api';
import { CategoryMark } from '../../../shared/triage/CategoryMark';
import { choices } from '../../../shared/triage/choices';
import { triageKeys } from '../../../shared/triage/keys';
import { Wrong } from '../../../shared/ui/Form';
import { Failed, Loading } from '../../../shared/ui/States';
import { moved } from '../model';
import { TriageNav } from '../TriageNav';
import { addCategory, type CategoryDraft, changeCategory, orderCategories } from './api';
import { CategoryForm } from './CategoryForm';

const NEW: CategoryDraft = { name: '', colour: 'slate', counts: true, retired: false };

/** The kinds of causes: their names, colours and order, and whether they fail a gate. */
export function CategoriesPage({ project }: { project: string }) {
  const mayEdit = useMayEdit(project);
  const client = useQueryClient();
  const decided = useDecided(project);
  const categories = useQuery(categoriesQuery(project));
  /** The one that is being written; `new` for a further one. */
  const [open, setOpen] = useState<number | 'new' | undefined>(undefined);
  const after = () => {
    void client.invalidateQueries({ queryKey: triageKeys.categories(project) });
    void client.invalidateQueries({ queryKey: triageKeys.rules(project) });
    decided();
  };
  const keeping = useMutation({
    mutationFn: ({ id, draft }: { id: number | undefined; draft: CategoryDraft }) =>
      id === undefined ? addCategory(project, draft) : changeCategory(project, id, draft),
    onSuccess: () => setOpen(undefined),
    onSettled: after,
  });
  const ordering = useMutation({
    mutationFn: (ids: number[]) => orderCategories(project, ids),
    onSettled: after,
  });
  if (categories.isPending) {
    return <Loading lines={6} />;
  }
  if (categories.error) {
    return <Failed page error={categories.error} retry={() => categories.refetch()} />;
  }
  const all = categories.data;
  const digits = new Map(choices(all).map((one) => [one.name, one.digit]));
  const offered = all.filter((one) => !one.retired);
  const retired = all.filter((one) => one.retired);
  const ids = [...offered, ...retired].map((one) => one.id);
  const row = (one: Category, at: number, last: number) => (
    <li key={one.id}>
      {open === one.id ? (
        <CategoryForm
          draft={one}
          taken={all.filter((other) => other.id !== one.id).map((other) => other.name)}
          busy={keeping.isPending}
          error={keeping.error}
          onKeep={(draft) => keeping.mutate({ id: one.id, draft })}
          onCancel={() => setOpen(undefined)}
        />
      ) : (
        <Row
          category={one}
          all={all}
          digit={digits.get(one.name)}
          onEdit={
            mayEdit
              ? () => {
                  keeping.reset();
                  setOpen(one.id);
                }
              : undefined
          }
          onUp={mayEdit && at > 0 ? () => ordering.mutate(moved(ids, one.id, -1)) : undefined}
          onDown={mayEdit && at < last ? () => ordering.mutate(moved(ids, one.id, 1)) : undefined}
        />
      )}
    </li>
  );
  return (
    <main className="min-h-0 grow overflow-y-auto">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-base-300 px-5 pt-4 pb-3">
        <h1 className="font-serif text-2xl">Triage</h1>
        <TriageNav project={project} />
      </header>
      <div className="mx-auto max-w-3xl px-5 py-5">
        <p className="text-quiet">
          Kinds of causes. The first nine have their place as their key on the desk. A gate does not
          fail for those that do not count.
        </p>
        <Wrong error={ordering.error} />
        <ol className="mt-4 divide-y divide-base-300/70 rounded-box border border-base-300">
          {offered.map((one, i) => row(one, i, offered.length - 1))}
          {mayEdit ? (
            <li>
              {open === 'new' ? (
                <CategoryForm
                  draft={NEW}
                  taken={all.map((one) => one.name)}
                  busy={keeping.isPending}
                  error={keeping.error}
                  onKeep={(draft) => keeping.mutate({ id: undefined, draft })}
                  onCancel={() => setOpen(undefined)}
                />
              ) : (
                <button
                  type="button"
                  className="link px-4 py-3 text-sm"
                  onClick={() => {
                    keeping.reset();
                    setOpen('new');
                  }}
                >
                  Another category
                </button>
              )}
            </li>
          ) : null}
        </ol>
        {retired.length > 0 ? (
          <>
            <h2 className="mt-8 font-serif text-xl">Retired</h2>
            <p className="text-sm text-quiet">
              Not offered any more; where they stand they go on standing.
            </p>
            <ol className="mt-3 divide-y divide-base-300/70 rounded-box border border-base-300">
              {retired.map((one, i) => row(one, i, retired.length - 1))}
            </ol>
          </>
        ) : null}
      </div>
    </main>
  );
}

function Row(props: {
  category: Category;
  all: Category[];
  digit: string | undefined;
  onEdit: (() => void) | undefined;
  onUp: (() => void) | undefined;
  onDown: (() => void) | undefined;
}) {
  const { category } = props;
  return (
    <div className="flex items-center gap-3 px-4 py-2.5">
      <span className="w-7 shrink-0">
        {props.digit ? <kbd className="kbd kbd-sm">{props.digit}</kbd> : null}
      </span>
      <span className="min-w-0 grow">
        <CategoryMark name={category.name} categories={props.all} />
      </span>
      <span className="text-sm text-quiet">
        {category.counts ? 'counts against a gate' : 'does not count'}
      </span>
      {props.onEdit ? (
        <>
          <button type="button" className="btn btn-ghost btn-sm" onClick={props.onEdit}>
            Edit<span className="sr-only"> {category.name}</span>
          </button>
          <span className="flex flex-col">
            <Step up name={category.name} act={props.onUp} />
            <Step name={category.name} act={props.onDown} />
          </span>
        </>
      ) : null}
    </div>
  );
}

function Step(props: { up?: boolean; name: string; act: (() => void) | undefined }) {
  const label = `Move “${props.name}” ${props.up ? 'up' : 'down'}`;
  const Icon = props.up ? ChevronUp : ChevronDown;
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      disabled={props.act === undefined}
      onClick={props.act}
      className="rounded text-quiet hover:bg-base-300/60 hover:text-base-content disabled:invisible"
    >
      <Icon size={15} aria-hidden />
    </button>
  );
}
