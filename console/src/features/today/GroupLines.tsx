import { Link } from '@tanstack/react-router';
import { count, plural } from '../../shared/lib/format';
import type { Category, Group } from '../../shared/triage/api';
import { CategoryMark } from '../../shared/triage/CategoryMark';
import { EndWords } from '../../shared/triage/EndWords';
import { GroupBeside, GroupTitle } from '../../shared/triage/GroupTitle';
import { RelativeTime } from '../../shared/ui/RelativeTime';

/** Some failure groups, each a link to the desk. */
export function GroupLines(props: {
  project: string;
  title: string;
  show: 'unsorted' | 'returned' | 'mine';
  groups: Group[];
  total: number;
  categories: Category[] | undefined;
}) {
  const { project, show, groups } = props;
  return (
    <section>
      <div className="flex items-baseline justify-between">
        <h2 className="font-serif text-xl">{props.title}</h2>
        <Link
          to="/$project/triage"
          params={{ project }}
          search={show === 'unsorted' ? {} : { show }}
          className="link text-sm"
        >
          {props.total > groups.length ? `all ${count(props.total)} on the desk` : 'to the desk'}
        </Link>
      </div>
      <ul className="mt-2 border-t border-base-300">
        {groups.map((group) => (
          <li key={group.group} className="border-b border-base-300">
            <Link
              to="/$project/triage"
              params={{ project }}
              search={{ group: group.group, ...(show === 'unsorted' ? {} : { show }) }}
              className="flex items-start gap-4 px-2 py-2 hover:bg-base-200"
            >
              <span className="w-10 shrink-0 text-right text-base font-semibold text-failed tabular-nums">
                {count(group.open)}
              </span>
              <span className="min-w-0 grow">
                <span className="block truncate font-semibold">
                  <GroupTitle group={group} />
                </span>
                <span className="block truncate text-[13px] text-quiet">
                  <GroupBeside group={group} />
                </span>
              </span>
              <span className="shrink-0 text-right text-[13px] text-quiet">
                <span className="block">
                  {plural(group.tests, 'test')}, {plural(group.runs, 'run')}
                </span>
                <span className="block">
                  {group.last.stream} #{group.last.number}, <RelativeTime iso={group.last.at} />
                </span>
                {group.ends && group.said ? (
                  <span className="block">
                    <CategoryMark name={group.said.category} categories={props.categories} />,{' '}
                    <EndWords ends={group.ends} endedBy={group.endedBy} />
                  </span>
                ) : null}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
