import { useMutation } from '@tanstack/react-query';
import { useKeys } from '../../../shared/lib/keys';
import { useMayEdit } from '../../../shared/session/may';
import { type Group, joinGroups, useDecided } from '../../../shared/triage/api';
import { Wrong } from '../../../shared/ui/Form';

/** What can be done with groups that were marked; nothing is shown when none is. */
export function MarkBar(props: {
  project: string;
  marked: Group[];
  chosen: number | undefined;
  onMark: (group: number) => void;
  onClear: () => void;
  onJoined: (into: number) => void;
}) {
  const { project, marked, chosen } = props;
  const mayEdit = useMayEdit(project);
  const decided = useDecided(project);
  // The one that is looked at stays, so that it is seen what the others become.
  const into = marked.find((one) => one.group === chosen) ?? marked[0];
  const joining = useMutation({
    mutationFn: ({ stays, others }: { stays: number; others: number[] }) =>
      joinGroups(project, stays, others),
    onSuccess: (_, { stays }) => {
      decided();
      props.onJoined(stays);
    },
  });
  const join = () => {
    if (into && marked.length > 1) {
      joining.mutate({
        stays: into.group,
        others: marked.map((one) => one.group).filter((one) => one !== into.group),
      });
    }
  };
  useKeys((event) => {
    if (!mayEdit || event.repeat || joining.isPending) {
      return;
    }
    if (event.key === 'x' && chosen !== undefined) {
      event.preventDefault();
      props.onMark(chosen);
    } else if (event.key === 't' && marked.length > 1) {
      event.preventDefault();
      join();
    } else if (event.key === 'Escape' && marked.length > 0) {
      event.preventDefault();
      props.onClear();
    }
  });
  if (marked.length === 0) {
    return null;
  }
  return (
    <div className="shrink-0 border-t border-base-300 bg-base-200 px-4 py-2 text-sm">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <p role="status">
          <b>{marked.length === 1 ? 'One group marked' : `${marked.length} groups marked`}</b>
          <span className="text-quiet">
            : a category explains {marked.length > 1 ? 'all' : 'it'}
          </span>
        </p>
        <span className="ml-auto flex gap-1.5">
          {marked.length > 1 ? (
            <button
              type="button"
              disabled={joining.isPending}
              aria-keyshortcuts="t"
              title="They are one cause, and what comes of them, too"
              onClick={join}
              className="btn btn-sm gap-1.5 bg-base-100 font-normal"
            >
              <kbd className="kbd kbd-xs">t</kbd> Put together
            </button>
          ) : null}
          <button
            type="button"
            aria-keyshortcuts="Escape"
            onClick={props.onClear}
            className="btn btn-ghost btn-sm gap-1.5 font-normal"
          >
            <kbd className="kbd kbd-xs">Esc</kbd> Unmark
          </button>
        </span>
      </div>
      <Wrong error={joining.error} className="mt-1" />
    </div>
  );
}
