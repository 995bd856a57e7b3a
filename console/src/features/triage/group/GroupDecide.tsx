import { useMutation, useQuery } from '@tanstack/react-query';
import { plural } from '../../../shared/lib/format';
import { useKeys } from '../../../shared/lib/keys';
import { sessionQuery } from '../../../shared/session/api';
import { useMayEdit } from '../../../shared/session/may';
import {
  assignGroup,
  type Category,
  decideGroup,
  type Group,
  mendGroup,
  undo,
  useDecided,
} from '../../../shared/triage/api';
import { DecideBar } from '../../../shared/triage/DecideBar';
import { RelativeTime } from '../../../shared/ui/RelativeTime';

/** Explains a whole group; says that it is mended; takes it, or gives it back. */
export function GroupDecide(props: {
  project: string;
  line: Group;
  categories: Category[] | undefined;
  onDecided: () => void;
}) {
  const { project, line } = props;
  const mayEdit = useMayEdit(project);
  const session = useQuery(sessionQuery);
  const me = session.data?.login;
  const decided = useDecided(project);
  const deciding = useMutation({
    mutationFn: ({ category, comment }: { category: string; comment: string }) =>
      decideGroup(project, line.group, category, comment),
    onSuccess: () => {
      props.onDecided();
      decided();
    },
  });
  const undoing = useMutation({
    mutationFn: (decision: number) => undo(project, decision),
    onSuccess: decided,
  });
  const mending = useMutation({
    mutationFn: () => mendGroup(project, line.group),
    onSuccess: decided,
  });
  const assigning = useMutation({
    mutationFn: (to: string | null) => assignGroup(project, line.group, to),
    onSuccess: decided,
  });
  const busy = deciding.isPending || undoing.isPending || mending.isPending || assigning.isPending;
  const mine = me !== undefined && line.assigned === me;
  const goesOn = line.said !== null && line.ended === null;
  const assign = () => me !== undefined && assigning.mutate(mine ? null : me);
  useKeys((event) => {
    if (!mayEdit || busy || event.repeat) {
      return;
    }
    if (event.key === 'm' && goesOn) {
      event.preventDefault();
      mending.mutate();
    } else if (event.key === 'a') {
      event.preventDefault();
      assign();
    }
  });
  return (
    <DecideBar
      group={line.group}
      lead={
        line.open > 0
          ? `Explain ${plural(line.open, 'result')} and what comes: this is a`
          : 'This is a'
      }
      beside={<State line={line} />}
      categories={props.categories}
      mayEdit={mayEdit}
      said={line.said}
      asksTwice={line.said !== null && line.said.by !== me}
      busy={busy}
      error={deciding.error ?? undoing.error ?? mending.error ?? assigning.error}
      onDecide={(category, comment) => deciding.mutateAsync({ category, comment })}
      onUndo={(decision) => undoing.mutate(decision)}
    >
      {goesOn ? (
        <button
          type="button"
          disabled={busy}
          aria-keyshortcuts="m"
          title="Should it fail again, it asks again"
          onClick={() => mending.mutate()}
          className="btn btn-ghost btn-sm gap-1.5 font-normal"
        >
          <kbd className="kbd kbd-xs">m</kbd> Mended
        </button>
      ) : null}
      <button
        type="button"
        disabled={busy || me === undefined}
        aria-keyshortcuts="a"
        onClick={assign}
        className="btn btn-ghost btn-sm gap-1.5 font-normal"
      >
        <kbd className="kbd kbd-xs">a</kbd> {mine ? 'Give back' : 'Take it'}
      </button>
    </DecideBar>
  );
}

/** Who looks after it, and what became of what was decided. */
function State({ line }: { line: Group }) {
  return (
    <span className="min-w-0 truncate text-right">
      {line.ended ? (
        <span className={line.returned ? 'text-errored' : 'text-quiet'}>
          mended <RelativeTime iso={line.ended} />
          {line.returned ? ', and back' : ''}
        </span>
      ) : line.said ? (
        <span className="text-quiet" title={line.said.comment ?? undefined}>
          by {line.said.by}
          {line.said.comment ? ` · ${line.said.comment}` : ''}
        </span>
      ) : null}
      {line.assigned ? (
        <span className="ml-2 font-semibold">{line.assigned} looks at it</span>
      ) : null}
    </span>
  );
}
