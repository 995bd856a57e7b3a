import type { ReactNode } from 'react';

/**
 * A list on the left, the thing itself on the right; below 900 px the two stack, and the page
 * scrolls as one.
 */
export function SplitPage(props: {
  /** Across both. */
  head?: ReactNode;
  /** The list takes less room where more is shown beside it. */
  narrowList?: boolean;
  children: [list: ReactNode, thing: ReactNode];
}) {
  const columns = props.narrowList
    ? 'min-[900px]:grid-cols-[minmax(13rem,1fr)_4fr]'
    : 'min-[900px]:grid-cols-[2fr_3fr]';
  return (
    <main className="flex min-h-0 grow flex-col max-[899px]:overflow-y-auto">
      {props.head}
      <div
        className={`flex min-h-0 grow flex-col min-[900px]:grid ${columns} ${
          props.head ? 'border-t border-base-300' : ''
        }`}
      >
        {props.children}
      </div>
    </main>
  );
}
