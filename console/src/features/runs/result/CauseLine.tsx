import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { categoriesQuery } from '../../../shared/triage/api';
import { CategoryMark } from '../../../shared/triage/CategoryMark';
import { saidBy } from '../../../shared/triage/saidBy';
import { TicketMark } from '../../../shared/triage/TicketMark';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import type { Result, Run } from '../api';

type Cause = NonNullable<Result['cause']>;

/** Why a result fails, since when, and whether somebody has explained it. */
export function CauseLine(props: { project: string; run: Run; cause: Cause }) {
  const { project, run, cause } = props;
  const categories = useQuery(categoriesQuery(project));
  return (
    <p className="mt-2 flex flex-wrap items-baseline gap-x-2 gap-y-1 rounded-field bg-base-200 px-3 py-1.5 text-sm">
      {cause.said ? (
        <>
          <CategoryMark name={cause.said.category} categories={categories.data} />
          <span className="text-quiet">{saidBy(cause.said)}</span>
          {cause.said.comment ? (
            <span className="min-w-0 truncate" title={cause.said.comment}>
              {cause.said.comment}
            </span>
          ) : null}
        </>
      ) : (
        <span className="font-semibold">unsorted</span>
      )}
      {cause.returned ? (
        <span className="font-semibold text-errored">· came back after it was over</span>
      ) : null}
      {cause.tickets.map((ticket) => (
        <TicketMark key={ticket.ticket} ticket={ticket} />
      ))}
      <span className="text-quiet">
        · <Before seen={cause.seen} run={run} />
      </span>
      <Link
        to="/$project/triage"
        params={{ project }}
        search={{ group: cause.group, show: 'all' }}
        className="link ml-auto shrink-0"
      >
        all of its group
      </Link>
    </p>
  );
}

/** Whether the cause is as new as the run: what a developer asks of a red test. */
function Before({ seen, run }: { seen: Cause['seen']; run: Run }) {
  if (!seen) {
    return 'when it began is not known any more';
  }
  if (seen.here) {
    return <b className="font-semibold text-failed">this cause was never seen before this run</b>;
  }
  return (
    <>
      this cause is not new: since{' '}
      {seen.stream === run.stream ? `#${seen.run}` : `${seen.stream} #${seen.run}`},{' '}
      <RelativeTime iso={seen.at} />
    </>
  );
}
