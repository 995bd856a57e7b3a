import { useMutation } from '@tanstack/react-query';
import { count, plural } from '../../../shared/lib/format';
import { useMayEdit } from '../../../shared/session/may';
import { type Category, type GroupDetail, undo, useDecided } from '../../../shared/triage/api';
import { CategoryMark } from '../../../shared/triage/CategoryMark';
import { EndWords } from '../../../shared/triage/EndWords';
import { saidBy } from '../../../shared/triage/saidBy';
import { AskTwice } from '../../../shared/ui/AskTwice';
import { Wrong } from '../../../shared/ui/Form';
import { MarkdownText } from '../../../shared/ui/MarkdownText';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { RunLink } from './RunLink';

/** The portal counts so far. */
const MOST_COUNTED = 10_000;

type Past = GroupDetail['past'][number];

/** All that was ever decided of it, by whom and when; nothing when nobody did. */
export function PastDecisions(props: {
  project: string;
  past: Past[];
  categories: Category[] | undefined;
}) {
  const { project } = props;
  const mayEdit = useMayEdit(project);
  const decided = useDecided(project);
  const undoing = useMutation({
    mutationFn: (decision: number) => undo(project, decision),
    onSettled: decided,
  });
  if (props.past.length === 0) {
    return null;
  }
  return (
    <section id="what-was-decided">
      <h3 className="mb-1 font-semibold">What was decided</h3>
      <ul className="text-sm">
        {props.past.map((one) => (
          <li
            key={one.said.decision}
            className={`border-b border-base-300/70 py-1.5 last:border-0 ${
              one.undoneAt ? 'opacity-70' : ''
            }`}
          >
            <p className="flex flex-wrap items-baseline gap-x-2">
              <CategoryMark name={one.said.category} categories={props.categories} />
              <span className="text-quiet">
                {saidBy(one.said)}, <RelativeTime iso={one.at} /> · {scope(one)}
                {one.run ? (
                  <>
                    {' '}
                    at <RunLink project={project} run={one.run} />
                  </>
                ) : null}
                {one.like ? ` · as suggested by group ${one.like}` : ''}
              </span>
              <span className="ml-auto text-quiet">{state(one)}</span>
              {mayEdit && !one.undoneAt ? (
                <AskTwice
                  label="Take back"
                  really="In all runs that it was carried to"
                  disabled={undoing.isPending}
                  onYes={() => undoing.mutate(one.said.decision)}
                />
              ) : null}
            </p>
            {one.said.comment ? <MarkdownText text={one.said.comment} /> : null}
          </li>
        ))}
      </ul>
      <Wrong error={undoing.error} />
    </section>
  );
}

function scope(one: Past): string {
  switch (one.scope) {
    case 'result':
      return 'one result';
    case 'fitting':
      return 'results that fit the rule';
    case 'whole':
      return 'the whole group';
    default:
      return 'the group from then on';
  }
}

function state(one: Past) {
  if (one.undoneAt) {
    return (
      <>
        taken back by {one.undoneBy}, <RelativeTime iso={one.undoneAt} />
      </>
    );
  }
  return (
    <>
      explains{' '}
      {one.results >= MOST_COUNTED
        ? `${count(MOST_COUNTED)} or more results`
        : plural(one.results, 'result')}
      {one.ends ? (
        <>
          {' '}
          · <EndWords ends={one.ends} endedBy={one.endedBy} />
        </>
      ) : null}
    </>
  );
}
