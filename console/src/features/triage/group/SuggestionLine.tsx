import type { Category, Suggestion } from '../../../shared/triage/api';
import { CategoryMark } from '../../../shared/triage/CategoryMark';
import { GroupTitle } from '../../../shared/triage/GroupTitle';
import { experience, reasons } from '../model';

/** What explained a like group, with what speaks for it; one key accepts it. */
export function SuggestionLine(props: {
  suggestion: Suggestion;
  categories: Category[] | undefined;
  busy: boolean;
  onGroup: (group: number) => void;
  onAccept: (decision: number) => void;
}) {
  const { suggestion } = props;
  const { like } = suggestion;
  const { said } = like;
  if (!said) {
    return null;
  }
  return (
    <div className="mb-2 flex items-start gap-3 rounded-box border border-base-300 bg-base-100 px-3 py-2 text-sm">
      <div className="min-w-0 grow">
        <p className="flex min-w-0 items-baseline gap-1.5">
          <span className="shrink-0 text-quiet">Perhaps</span>
          <CategoryMark name={said.category} categories={props.categories} />
          <span className="shrink-0 text-quiet">as</span>
          <button
            type="button"
            className="link-hover min-w-0 truncate text-left"
            onClick={() => props.onGroup(like.group)}
          >
            <GroupTitle group={like} />
          </button>
        </p>
        <p className="line-clamp-2 text-[13px] text-quiet" title={reasons(suggestion)}>
          {experience(suggestion)} · {reasons(suggestion)}
          {said.comment ? ` · “${said.comment}”` : ''}
        </p>
      </div>
      <button
        type="button"
        disabled={props.busy}
        aria-keyshortcuts="y"
        onClick={() => props.onAccept(said.decision)}
        className="btn btn-sm gap-1.5 font-normal"
      >
        <kbd className="kbd kbd-xs text-base-content">y</kbd> Accept
      </button>
    </div>
  );
}
