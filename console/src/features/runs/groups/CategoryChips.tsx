import { count } from '../../../shared/lib/format';
import type { Category, GroupInRun } from '../../../shared/triage/api';
import { CategoryMark } from '../../../shared/triage/CategoryMark';
import { byCategory, UNSORTED } from './byCategory';

/** The failures of a run by what they are: each narrows the groups, once more lets all through. */
export function CategoryChips(props: {
  groups: GroupInRun[];
  categories: Category[] | undefined;
  chosen: string | undefined;
  onChoose: (category: string | undefined) => void;
}) {
  const shares = byCategory(props.groups);
  if (shares.length < 2) {
    return null;
  }
  return (
    <div
      className="flex shrink-0 flex-wrap gap-1.5 px-4 pb-2"
      role="group"
      aria-label="By category"
    >
      {shares.map(({ category, results }) => (
        <button
          key={category}
          type="button"
          aria-pressed={props.chosen === category}
          onClick={() => props.onChoose(props.chosen === category ? undefined : category)}
          className={`rounded-field border px-2 py-0.5 text-[13px] ${
            props.chosen === category
              ? 'border-primary bg-base-200'
              : 'border-base-300 hover:bg-base-200'
          }`}
        >
          {category === UNSORTED ? (
            <span className="font-semibold text-failed">unsorted</span>
          ) : (
            <CategoryMark name={category} categories={props.categories} />
          )}
          <span className="ml-1.5 text-quiet tabular-nums">{count(results)}</span>
        </button>
      ))}
    </div>
  );
}
