import type { ReactNode } from 'react';

/** While something is fetched: quiet lines where the list will be. */
export function Loading({ lines = 6 }: { lines?: number }) {
  return (
    <div role="status" className="space-y-3 p-4">
      <span className="sr-only">Loading</span>
      {Array.from({ length: lines }, (_, i) => i).map((line) => (
        <div key={line} className="skeleton h-8 w-full rounded-field opacity-60" />
      ))}
    </div>
  );
}

/** Nothing there, and what to do about it; `page` when that is all the page says. */
export function Empty(props: { title: string; page?: boolean; children?: ReactNode }) {
  const Title = props.page ? 'h1' : 'p';
  return (
    <div className="mx-auto max-w-xl p-10 text-center">
      <Title className="font-serif text-lg">{props.title}</Title>
      <div className="mt-2 text-quiet">{props.children}</div>
    </div>
  );
}

/** Something failed, in the portal's words; `page` when that is all the page says. */
export function Failed(props: { error: Error; page?: boolean; retry?: () => void }) {
  const { error, page, retry } = props;
  const Title = page ? 'h1' : 'p';
  const words = (
    <div role="alert" className="m-4 rounded-box border border-error/40 bg-base-200 p-4">
      <Title className="font-semibold text-error">This could not be shown</Title>
      <p className="mt-1 first-letter:uppercase">{error.message}</p>
      {retry ? (
        <button type="button" className="btn btn-sm btn-outline mt-3" onClick={retry}>
          Try again
        </button>
      ) : null}
    </div>
  );
  return page ? <main className="mx-auto w-full max-w-4xl">{words}</main> : words;
}
