import type { InfiniteData, UseInfiniteQueryResult } from '@tanstack/react-query';
import { type ReactNode, useMemo } from 'react';
import { Empty, Failed, Loading } from '../../../shared/ui/States';

/** A whole list, page after page as somebody asks for more. */
export function FoundList<T extends { id: number }>(props: {
  query: UseInfiniteQueryResult<InfiniteData<{ items: T[] }>>;
  label: string;
  /** What it is called when there is none. */
  none: string;
  /** Said above so many when there are more. */
  first: (number: number) => string;
  /** What asks for more. */
  more: string;
  children: (one: T) => ReactNode;
}) {
  const { query } = props;
  const all = useMemo(() => query.data?.pages.flatMap((page) => page.items) ?? [], [query.data]);
  if (query.isPending) {
    return <Loading lines={8} />;
  }
  if (query.error) {
    return <Failed error={query.error} retry={() => query.refetch()} />;
  }
  if (all.length === 0) {
    return <Empty title={props.none}>Ask for less, or for something else.</Empty>;
  }
  return (
    <section
      aria-label={props.label}
      className="min-h-0 grow overflow-y-auto border-t border-base-300"
      tabIndex={0}
    >
      {query.hasNextPage ? (
        <p role="status" className="px-5 py-2 text-[13px] text-quiet">
          {props.first(all.length)}; there are more
        </p>
      ) : null}
      <ul>
        {all.map((one) => (
          <li key={one.id} className="border-b border-base-300/70 px-5 py-2">
            {props.children(one)}
          </li>
        ))}
      </ul>
      {query.hasNextPage ? (
        <p className="px-5 py-3">
          <button
            type="button"
            className="btn btn-sm"
            disabled={query.isFetchingNextPage}
            onClick={() => query.fetchNextPage()}
          >
            {props.more}
          </button>
        </p>
      ) : null}
    </section>
  );
}
