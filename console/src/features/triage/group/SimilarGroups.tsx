import { plural } from '../../../shared/lib/format';
import type { Category, GroupDetail } from '../../../shared/triage/api';
import { CategoryMark } from '../../../shared/triage/CategoryMark';
import { GroupTitle } from '../../../shared/triage/GroupTitle';

/** Other groups with like errors; nothing when there is none. */
export function SimilarGroups(props: {
  similar: GroupDetail['similar'];
  categories: Category[] | undefined;
  onGroup: (group: number) => void;
}) {
  const { similar } = props;
  if (similar.length === 0) {
    return null;
  }
  return (
    <section>
      <h3 className="mb-1 font-semibold">Similar groups</h3>
      <ul className="text-sm">
        {similar.map((one) => (
          <li
            key={one.group}
            className="flex items-baseline gap-3 border-b border-base-300/70 py-1.5 last:border-0"
          >
            <span className="w-10 shrink-0 text-right text-quiet tabular-nums">
              {Math.round(one.likeness * 100)} %
            </span>
            <span className="min-w-0 grow">
              <button
                type="button"
                className="link-hover block max-w-full truncate text-left"
                onClick={() => props.onGroup(one.group)}
              >
                <GroupTitle group={one} />
              </button>
              <span className="block truncate text-[13px] text-quiet">
                {one.sentence.replaceAll('`', '')}
                {one.sameTests > 0 ? ` · ${plural(one.sameTests, 'test')} in both` : ''}
                {one.said?.comment ? ` · ${one.said.comment}` : ''}
              </span>
            </span>
            {one.said ? (
              <CategoryMark name={one.said.category} categories={props.categories} />
            ) : (
              <span className="text-quiet">unsorted</span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
