import { SquareCheck } from 'lucide-react';
import { count, plural } from '../../../shared/lib/format';
import type { Category, Group } from '../../../shared/triage/api';
import { CategoryMark } from '../../../shared/triage/CategoryMark';
import { GroupBeside, GroupTitle } from '../../../shared/triage/GroupTitle';
import { TicketBadge } from '../../../shared/triage/TicketMark';
import { RelativeTime } from '../../../shared/ui/RelativeTime';

const DAY_MS = 86_400_000;

/** A failure group in the queue: what is left of it, what is wrong, how far it reaches. */
export function DeskRow(props: {
  group: Group;
  categories: Category[] | undefined;
  marked: boolean;
}) {
  const { group } = props;
  const open = group.open > 0;
  return (
    <span className="flex min-w-0 items-start gap-3">
      <span
        className={`mt-0.5 w-10 shrink-0 text-right text-base tabular-nums ${
          open ? 'font-semibold text-failed' : 'text-quiet'
        }`}
        title={`${count(group.open)} of ${plural(group.results, 'result')} unsorted`}
      >
        {count(open ? group.open : group.results)}
        {props.marked ? (
          <span className="mt-0.5 flex justify-end text-primary">
            <SquareCheck size={16} aria-hidden />
            <span className="sr-only">marked</span>
          </span>
        ) : null}
      </span>
      <span className="min-w-0 grow">
        <span className="flex min-w-0 items-baseline gap-2">
          <span className={`min-w-0 grow truncate ${open ? 'font-semibold' : ''}`}>
            <GroupTitle group={group} />
          </span>
          <Badge group={group} />
        </span>
        <span className="block truncate text-[13px] text-quiet" title={group.sentence}>
          <GroupBeside group={group} />
        </span>
        <span className="mt-0.5 flex min-w-0 items-baseline gap-2 text-[13px]">
          {group.said ? (
            <CategoryMark name={group.said.category} categories={props.categories} />
          ) : null}
          <TicketBadge of={group.tickets} />
          <span className="min-w-0 truncate text-quiet">
            {group.assigned ? `${group.assigned} · ` : ''}
            {plural(group.tests, 'test')}, {plural(group.runs, 'run')}
            {group.streams > 1 ? `, ${plural(group.streams, 'stream')}` : ''}
          </span>
          <span className="ml-auto shrink-0 text-quiet">
            {group.last.stream} #{group.last.number}, <RelativeTime iso={group.last.at} />
          </span>
        </span>
      </span>
    </span>
  );
}

/** What is special about it: it came back, people disagree on it, or nobody saw it before the last day. */
function Badge({ group }: { group: Group }) {
  if (group.returned) {
    return (
      <span className="badge badge-xs shrink-0 border-0 bg-errored text-base-100">returned</span>
    );
  }
  if (group.disputed) {
    return (
      <span className="badge badge-xs shrink-0 border-0 bg-errored text-base-100">disputed</span>
    );
  }
  const isNew = Date.now() - Date.parse(group.first.at) < DAY_MS;
  return isNew ? (
    <span className="badge badge-xs shrink-0 border-0 bg-failed text-base-100">new</span>
  ) : null;
}
