import { plural } from '../../../shared/lib/format';
import type { Category, GroupInRun } from '../../../shared/triage/api';
import { CategoryMark } from '../../../shared/triage/CategoryMark';
import { GroupBeside, GroupTitle } from '../../../shared/triage/GroupTitle';
import { saidBy } from '../../../shared/triage/saidBy';
import { TicketBadge } from '../../../shared/triage/TicketMark';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import type { Run } from '../api';

/** A failure group in a list: how much it covers, what is wrong, and what explains it. */
export function GroupRow(props: {
  group: GroupInRun;
  run: Run;
  categories: Category[] | undefined;
}) {
  const { group } = props;
  return (
    <span className="flex min-w-0 items-start gap-3">
      <span
        className={`mt-0.5 w-9 shrink-0 text-right text-base tabular-nums ${
          group.open > 0 ? 'font-semibold text-failed' : 'text-quiet'
        }`}
        title={`${plural(group.results, 'result')}, ${plural(group.tests, 'test')}`}
      >
        {group.results}
      </span>
      <span className="min-w-0 grow">
        <span className="flex min-w-0 items-baseline gap-2">
          <span className={`min-w-0 grow truncate ${group.open > 0 ? 'font-semibold' : ''}`}>
            <GroupTitle group={group} />
          </span>
          {group.returned ? (
            <span className="badge badge-xs shrink-0 border-0 bg-errored text-base-100">
              returned
            </span>
          ) : group.seen?.here ? (
            <span className="badge badge-xs shrink-0 border-0 bg-failed text-base-100">new</span>
          ) : null}
        </span>
        <span className="block truncate text-[13px] text-quiet" title={group.sentence}>
          <GroupBeside group={group} />
        </span>
        <span className="mt-0.5 flex min-w-0 items-baseline gap-2 text-[13px]">
          {group.said ? (
            <>
              <CategoryMark name={group.said.category} categories={props.categories} />
              <span className="min-w-0 truncate text-quiet" title={group.said.comment ?? undefined}>
                {saidBy(group.said)}
                {group.said.comment ? ` · ${group.said.comment}` : ''}
                {group.open > 0 ? ` · ${group.open} left` : ''}
              </span>
            </>
          ) : (
            <span className="shrink-0 text-quiet">unsorted</span>
          )}
          <TicketBadge of={group.tickets} />
          {group.kept > 0 ? (
            <span className="min-w-0 truncate text-quiet">
              kept {plural(group.kept, 'test')} from running
            </span>
          ) : null}
          {group.seen && !group.seen.here ? (
            <span className="ml-auto shrink-0 text-quiet">
              since{' '}
              {group.seen.stream === props.run.stream
                ? `#${group.seen.run}`
                : `${group.seen.stream} #${group.seen.run}`}
              , <RelativeTime iso={group.seen.at} />
            </span>
          ) : null}
        </span>
      </span>
    </span>
  );
}
