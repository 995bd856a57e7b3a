import { useMutation } from '@tanstack/react-query';
import { plural } from '../../../shared/lib/format';
import {
  type Category,
  decide,
  type GroupInRun,
  undo,
  useDecided,
} from '../../../shared/triage/api';
import { DecideBar } from '../../../shared/triage/DecideBar';
import type { Run } from '../api';

/** Explains the chosen group of a run, from that run on. */
export function RunDecideBar(props: {
  project: string;
  run: Run;
  group: GroupInRun;
  categories: Category[] | undefined;
  mayEdit: boolean;
  onResults: () => void;
  onDecided: () => void;
}) {
  const { project, run, group } = props;
  const decided = useDecided(project);
  const deciding = useMutation({
    mutationFn: ({ category, comment }: { category: string; comment: string }) =>
      decide(project, run.id, group.first, category, comment),
    onSuccess: decided,
  });
  const undoing = useMutation({
    mutationFn: (decision: number) => undo(project, decision),
    onSuccess: decided,
  });
  return (
    <div className="shrink-0 border-t border-base-300 bg-base-200/60 px-4 py-3">
      <DecideBar
        group={group.group}
        lead="This group is, from this run on, a"
        beside={
          <button type="button" className="link" onClick={props.onResults}>
            {plural(group.results, 'result')} of it
          </button>
        }
        categories={props.categories}
        mayEdit={props.mayEdit}
        said={group.said}
        asksTwice={group.said?.origin !== 'hand'}
        busy={deciding.isPending || undoing.isPending}
        error={deciding.error ?? undoing.error}
        onDecide={(category, comment) =>
          // Said of the call: whoever has gone on to another group meanwhile is not brought back.
          deciding.mutateAsync({ category, comment }, { onSuccess: () => props.onDecided() })
        }
        onUndo={(decision) => undoing.mutate(decision)}
      />
    </div>
  );
}
