import { useMutation } from '@tanstack/react-query';
import { plural } from '../../../shared/lib/format';
import { useMayEdit } from '../../../shared/session/may';
import { type GroupDetail, groupAsFound, useDecided } from '../../../shared/triage/api';
import { GroupTitle } from '../../../shared/triage/GroupTitle';
import { AskTwice } from '../../../shared/ui/AskTwice';
import { Wrong } from '../../../shared/ui/Form';
import { RelativeTime } from '../../../shared/ui/RelativeTime';

type Regrouped = GroupDetail['regrouped'][number];

/** What people put together with a group, or took out of it; nothing when nobody did. */
export function RegroupedList(props: {
  project: string;
  group: number;
  regrouped: Regrouped[];
  onGroup: (group: number) => void;
}) {
  const { project } = props;
  const mayEdit = useMayEdit(project);
  const decided = useDecided(project);
  const undoing = useMutation({
    mutationFn: (group: number) => groupAsFound(project, group),
    onSettled: decided,
  });
  if (props.regrouped.length === 0) {
    return null;
  }
  return (
    <section>
      <h3 className="mb-1 font-semibold">Put together and apart</h3>
      <ul className="text-sm">
        {props.regrouped.map((one) => (
          <li
            key={`${one.what} ${one.group}`}
            className="flex items-baseline gap-3 border-b border-base-300/70 py-1.5 last:border-0"
          >
            <span className="min-w-0 grow">
              <span className="flex min-w-0 gap-1.5">
                <span className="shrink-0 text-quiet">{words(one)}</span>
                {one.what === 'joined' ? (
                  <span className="min-w-0 truncate">
                    <GroupTitle group={one} />
                  </span>
                ) : (
                  <button
                    type="button"
                    className="link-hover min-w-0 truncate text-left"
                    onClick={() => props.onGroup(one.group)}
                  >
                    group {one.group}
                  </button>
                )}
              </span>
              <span className="block text-[13px] text-quiet">
                by {one.by}, <RelativeTime iso={one.at} />
              </span>
            </span>
            {mayEdit ? (
              <AskTwice
                label="Undo"
                really={one.what === 'joined' ? 'Take it out again' : 'Put it back'}
                disabled={undoing.isPending}
                onYes={() => undoing.mutate(one.what === 'parted-from' ? props.group : one.group)}
              />
            ) : null}
          </li>
        ))}
      </ul>
      <Wrong error={undoing.error} />
    </section>
  );
}

function words(one: Regrouped): string {
  switch (one.what) {
    case 'joined':
      return 'This is one with';
    case 'parted':
      return `${plural(one.tests, 'test was', 'tests were')} taken out as`;
    default:
      return `${plural(one.tests, 'test was', 'tests were')} taken out of`;
  }
}
