import type { Detail } from '../../../shared/attempts/types';

/** What its file tells of a test beside all else. */
export function Properties({ detail }: { detail: Detail }) {
  const entries = Object.entries(detail.properties);
  if (entries.length === 0) {
    return null;
  }
  return (
    <section className="mt-6">
      <h3 className="font-semibold">Properties</h3>
      <dl className="mt-1 grid grid-cols-[minmax(6rem,auto)_1fr] gap-x-4 gap-y-1">
        {entries.map(([key, value]) => (
          <div key={key} className="contents">
            <dt className="break-all text-quiet">{key}</dt>
            <dd className="break-words whitespace-pre-wrap">{value}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
