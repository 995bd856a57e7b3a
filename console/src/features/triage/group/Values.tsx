import { useState } from 'react';
import { count } from '../../../shared/lib/format';

const FIRST = 4;

/** What stood in the holes of the title, one line for each hole that had more than one value. */
export function Values({ values }: { values: string[][] }) {
  const told = values
    .map((some, i) => ({ place: i + 1, some: some.filter((one) => one !== '') }))
    .filter(({ some }) => some.length > 1);
  if (told.length === 0) {
    return null;
  }
  return (
    <dl className="mt-2 space-y-0.5 text-[13px]">
      {told.map(({ place, some }) => (
        <div key={place} className="flex gap-2">
          <dt className="shrink-0 text-quiet">
            <span
              aria-hidden
              className="mr-1 inline-block h-[0.6em] w-3 rounded-sm bg-base-300 align-baseline"
            />
            {values.length > 1 ? `value ${place}` : 'values'}
          </dt>
          <dd className="min-w-0 break-words">
            <Some all={some} />
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Some({ all }: { all: string[] }) {
  const [whole, setWhole] = useState(false);
  const shown = whole ? all : all.slice(0, FIRST);
  return (
    <>
      {shown.join(' · ')}
      {all.length > shown.length ? (
        <>
          {' '}
          <button type="button" className="link" onClick={() => setWhole(true)}>
            {count(all.length - shown.length)} more
          </button>
        </>
      ) : null}
    </>
  );
}
