import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useId, useState } from 'react';
import { FilterBox } from '../../../shared/filter/FilterBox';
import { plural } from '../../../shared/lib/format';
import { type Category, useDecided } from '../../../shared/triage/api';
import { triageKeys } from '../../../shared/triage/keys';
import { AskTwice } from '../../../shared/ui/AskTwice';
import { SelectField, Wrong } from '../../../shared/ui/Form';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { type Draft, keepRule, type Rule, removeRule, takeBackRule } from './api';
import { differs, draftOf, lacks, NEW, untried } from './model';
import { Trial } from './Trial';

/** What was written and not kept, by project and rule: it waits while another one is looked at. */
const drafts = new Map<string, Draft>();

/** Writes a rule, with what it would do below; it is kept once that was seen. */
export function RuleEditor(props: {
  project: string;
  /** Undefined for a new one. */
  rule: Rule | undefined;
  categories: Category[] | undefined;
  mayEdit: boolean;
  onKept: (rule: Rule) => void;
  onRemoved: () => void;
}) {
  const { project, rule, mayEdit } = props;
  const client = useQueryClient();
  const decided = useDecided(project);
  const place = `${project} ${rule?.id ?? 'new'}`;
  const [draft, write] = useState<Draft>(drafts.get(place) ?? (rule ? draftOf(rule) : NEW));
  const setDraft = (next: Draft) => {
    write(next);
    if (differs(next, rule)) {
      drafts.set(place, next);
    } else {
      drafts.delete(place);
    }
  };
  // A rule that somebody else changed is shown as it is now, unless something is being written.
  const [seen, setSeen] = useState(rule);
  const [runs, setRuns] = useState(20);
  const [past, setPast] = useState(true);
  if (rule !== seen) {
    setSeen(rule);
    if (rule && !differs(draft, seen)) {
      write(draftOf(rule));
      drafts.delete(place);
    }
  }
  const after = () => {
    void client.invalidateQueries({ queryKey: triageKeys.rules(project) });
    decided();
  };
  const keeping = useMutation({
    mutationFn: () => keepRule(project, rule, draft, past && draft.on ? runs : 0),
    onSuccess: (kept) => {
      write(draftOf(kept));
      drafts.delete(place);
      // At once: another rule must not be shown in its place until the list is asked for again.
      client.setQueryData<Rule[]>(triageKeys.rules(project), (before) =>
        rule ? before?.map((one) => (one.id === kept.id ? kept : one)) : [...(before ?? []), kept],
      );
      props.onKept(kept);
    },
    onSettled: after,
  });
  const taking = useMutation({
    mutationFn: (id: number) => takeBackRule(project, id),
    onSuccess: () => write({ ...draft, on: false }),
    onSettled: after,
  });
  const removing = useMutation({
    mutationFn: (id: number) => removeRule(project, id),
    onSuccess: props.onRemoved,
    onSettled: after,
  });
  const set = (part: Partial<Draft>) => setDraft({ ...draft, ...part });
  const busy = keeping.isPending || taking.isPending || removing.isPending;
  const changed = differs(draft, rule);
  const lacking = lacks(draft);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    keeping.mutate();
  };
  return (
    <>
      <form onSubmit={submit} className="space-y-3">
        <fieldset disabled={!mayEdit || busy} className="space-y-3">
          <div className="flex flex-wrap items-end gap-3">
            <NameField value={draft.name} onChange={(name) => set({ name })} />
            <SelectField
              label="This is a"
              className="w-52"
              value={draft.category}
              onChange={(category) => set({ category })}
              options={options(props.categories, draft.category)}
            />
            <label className="flex h-10 items-center gap-2">
              <input
                type="checkbox"
                className="toggle toggle-sm"
                checked={draft.on}
                onChange={(e) => set({ on: e.target.checked })}
              />
              {draft.on ? 'On' : 'Off'}
            </label>
          </div>
          <div>
            <p className="text-sm font-semibold">Failures that pass this filter</p>
            <div className="mt-1">
              <FilterBox
                plain
                exact
                project={project}
                of="result"
                filter={draft.filter}
                onChange={(filter) => set({ filter })}
                placeholder='Any failure, or as in: run.stream sw "quayside" and tag eq "smoke"'
              />
            </div>
          </div>
          <PatternField value={draft.pattern} onChange={(pattern) => set({ pattern })} />
          <CommentField value={draft.comment} onChange={(comment) => set({ comment })} />
        </fieldset>
        {mayEdit ? (
          <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
            <button
              type="submit"
              className="btn btn-primary btn-sm"
              disabled={busy || lacking !== undefined || (rule !== undefined && !changed)}
            >
              {rule ? 'Save' : 'Keep the rule'}
            </button>
            <label className={`flex items-center gap-2 text-sm ${draft.on ? '' : 'invisible'}`}>
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={past}
                onChange={(e) => setPast(e.target.checked)}
              />
              and let it explain what is unsorted in the latest {runs} runs
            </label>
            <span className="text-sm text-quiet">{changed || !rule ? lacking : null}</span>
            {rule ? (
              <span className="ml-auto flex gap-2">
                {rule.explained > 0 ? (
                  <AskTwice
                    label="Take back"
                    really="Off, and take back all it explained"
                    disabled={busy}
                    onYes={() => taking.mutate(rule.id)}
                  />
                ) : null}
                <AskTwice
                  label="Remove"
                  really="Remove; what it said stays"
                  disabled={busy}
                  onYes={() => removing.mutate(rule.id)}
                />
              </span>
            ) : null}
          </div>
        ) : null}
        <Wrong error={keeping.error ?? taking.error ?? removing.error} />
        {taking.data ? (
          <p role="status" className="text-sm">
            {plural(taking.data.results, 'failure is', 'failures are')} unsorted again.
          </p>
        ) : null}
        {rule?.changedBy && !changed ? (
          <p className="text-[13px] text-quiet">
            Version {rule.version}, by {rule.changedBy}, <RelativeTime iso={rule.changed} />. A
            change holds from then on; what it has explained stays as it was said.
          </p>
        ) : null}
      </form>
      {mayEdit ? (
        <Trial
          project={project}
          rule={rule}
          condition={untried(draft) ? undefined : draft}
          category={draft.category}
          categories={props.categories}
          runs={runs}
          onRuns={setRuns}
        />
      ) : null}
    </>
  );
}

function options(categories: Category[] | undefined, chosen: string) {
  const offered = (categories ?? [])
    .filter((one) => !one.retired || one.name === chosen)
    .map((one) => [one.name, one.name] as const);
  return [['', 'choose a category'] as const, ...offered];
}

function NameField(props: { value: string; onChange: (value: string) => void }) {
  const id = useId();
  return (
    <div className="min-w-56 grow">
      <label htmlFor={id} className="text-sm font-semibold">
        Name
      </label>
      <input
        id={id}
        className="input mt-1 w-full"
        maxLength={100}
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
      />
    </div>
  );
}

function PatternField(props: { value: string; onChange: (value: string) => void }) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="text-sm font-semibold">
        and in whose type, message or trace this pattern stands
      </label>
      <input
        id={id}
        className="input input-sm mt-1 w-full font-mono text-[13px]"
        spellCheck={false}
        autoComplete="off"
        maxLength={1_000}
        placeholder="Anything, or as in: (?i)connection refused|timed out after \d+ s"
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
      />
    </div>
  );
}

function CommentField(props: { value: string; onChange: (value: string) => void }) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="text-sm font-semibold">
        Comment on each <span className="font-normal text-quiet">(Markdown, may be empty)</span>
      </label>
      <textarea
        id={id}
        rows={2}
        className="textarea textarea-sm mt-1 min-h-14 w-full"
        maxLength={20_000}
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
      />
    </div>
  );
}
