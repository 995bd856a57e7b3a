import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { Plus } from 'lucide-react';
import { SplitPage } from '../../../shared/layout/SplitPage';
import { plural } from '../../../shared/lib/format';
import { useRunNews } from '../../../shared/runs/news';
import { useMayEdit } from '../../../shared/session/may';
import { type Category, categoriesQuery } from '../../../shared/triage/api';
import { triageKeys } from '../../../shared/triage/keys';
import { Wrong } from '../../../shared/ui/Form';
import { Failed, Loading } from '../../../shared/ui/States';
import { moved, type RulesSearch } from '../model';
import { TriageNav } from '../TriageNav';
import { orderRules, type Rule, rulesQuery } from './api';
import { RuleEditor } from './RuleEditor';
import { RuleRow } from './RuleRow';

/** The rules in their order; the chosen one beside them, with what it would do. */
export function RulesPage({ project, search }: { project: string; search: RulesSearch }) {
  useRunNews(project);
  const navigate = useNavigate();
  const mayEdit = useMayEdit(project);
  const client = useQueryClient();
  const rules = useQuery(rulesQuery(project));
  const categories = useQuery(categoriesQuery(project));
  const ordering = useMutation({
    mutationFn: (ids: number[]) => orderRules(project, ids),
    // As it shall be, at once; what the portal says follows.
    onMutate: (ids) =>
      client.setQueryData<Rule[]>(triageKeys.rules(project), (before) =>
        before?.slice().sort((a, b) => ids.indexOf(a.id) - ids.indexOf(b.id)),
      ),
    onSettled: () => client.invalidateQueries({ queryKey: triageKeys.rules(project) }),
  });
  const choose = (rule: number | 'new' | undefined) =>
    navigate({
      to: '/$project/triage/rules',
      params: { project },
      search: rule === undefined ? {} : { rule },
      replace: true,
    });
  if (rules.isPending) {
    return <Loading lines={8} />;
  }
  if (rules.error) {
    return <Failed page error={rules.error} retry={() => rules.refetch()} />;
  }
  const all = rules.data;
  const chosen =
    search.rule === 'new' ? undefined : (all.find((one) => one.id === search.rule) ?? all[0]);
  const writing = search.rule === 'new' || chosen === undefined;
  const move = (id: number, step: -1 | 1) =>
    ordering.mutate(
      moved(
        all.map((one) => one.id),
        id,
        step,
      ),
    );
  return (
    <SplitPage
      head={
        <RulesHead project={project} rules={all}>
          {mayEdit ? (
            <button
              type="button"
              className="btn btn-primary btn-sm gap-1"
              onClick={() => choose('new')}
            >
              <Plus size={15} aria-hidden /> New rule
            </button>
          ) : null}
        </RulesHead>
      }
    >
      <section
        aria-label="Rules"
        className="min-h-0 border-base-300 max-[899px]:shrink-0 max-[899px]:border-b min-[900px]:overflow-y-auto min-[900px]:border-r"
      >
        <Wrong error={ordering.error} className="px-4 pt-3" />
        <ol>
          {all.map((rule, i) => (
            <li key={rule.id} className="border-b border-base-300/70">
              <RuleRow
                rule={rule}
                place={i + 1}
                selected={!writing && rule.id === chosen?.id}
                categories={categories.data}
                onChoose={() => choose(rule.id)}
                onUp={mayEdit && i > 0 ? () => move(rule.id, -1) : undefined}
                onDown={mayEdit && i < all.length - 1 ? () => move(rule.id, 1) : undefined}
              />
            </li>
          ))}
        </ol>
        <p className="px-4 py-3 text-[13px] text-quiet">
          A failure that nobody explained is explained by the first rule that it fits. What people
          decide goes before, and a cause that came back after it was mended waits for a person.
        </p>
      </section>
      <Chosen
        project={project}
        rule={writing ? undefined : chosen}
        categories={categories.data}
        mayEdit={mayEdit}
        onKept={(rule) => choose(rule.id)}
        onRemoved={() => choose(undefined)}
      />
    </SplitPage>
  );
}

function Chosen(props: {
  project: string;
  rule: Rule | undefined;
  categories: Category[] | undefined;
  mayEdit: boolean;
  onKept: (rule: Rule) => void;
  onRemoved: () => void;
}) {
  return (
    <section
      aria-label={props.rule ? 'Chosen rule' : 'New rule'}
      className="min-h-0 min-w-0 px-6 py-4 max-[899px]:shrink-0 min-[900px]:overflow-y-auto"
    >
      <RuleEditor key={props.rule?.id ?? 'new'} {...props} />
    </section>
  );
}

function RulesHead(props: { project: string; rules: Rule[]; children: React.ReactNode }) {
  const on = props.rules.filter((one) => one.on);
  const explained = props.rules.reduce((sum, one) => sum + one.explained, 0);
  return (
    <header className="flex shrink-0 flex-wrap items-baseline gap-x-4 gap-y-1 px-5 pt-4 pb-3">
      <h1 className="font-serif text-2xl">Triage</h1>
      <TriageNav project={props.project} />
      <p role="status" className="text-[15px] text-quiet">
        {on.length === 0 ? 'No rule is on' : `${plural(on.length, 'rule is', 'rules are')} on`}
        {explained > 0 ? ` · ${plural(explained, 'failure')} explained so far` : ''}
      </p>
      <span className="ml-auto">{props.children}</span>
    </header>
  );
}
