import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import type { Result, Run } from '../api';
import { cleaned, type RunSearch } from '../model';

/** A row that shows its result beside the list, or, as a link does, in a tab of its own. */
export function ResultLink(props: {
  project: string;
  run: Run;
  result: Result;
  selected: boolean;
  className: string;
  /** Whether Tab stops at rows that are not selected, too. */
  everyTab: boolean;
  children: ReactNode;
}) {
  const { project, run, result, selected } = props;
  return (
    <Link
      to="/$project/runs/$"
      params={{ project, _splat: `${run.stream}/${run.number}` }}
      search={(now: RunSearch) => cleaned({ ...now, result: result.id, attempt: undefined })}
      replace
      resetScroll={false}
      tabIndex={selected || props.everyTab ? 0 : -1}
      aria-current={selected ? 'true' : undefined}
      className={`flex w-full items-center text-left hover:bg-base-200 ${
        selected ? 'bg-base-200 shadow-[inset_3px_0_0_var(--color-primary)]' : ''
      } ${props.className}`}
    >
      <span className="min-w-0 grow">{props.children}</span>
    </Link>
  );
}
