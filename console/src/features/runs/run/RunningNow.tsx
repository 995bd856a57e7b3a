import { useEffect, useState } from 'react';
import { duration } from '../../../shared/lib/format';
import type { Part } from '../api';

const SHOWN = 3;

/** The tests that run now, the longest first, and for how long. */
export function RunningNow({ parts }: { parts: Part[] }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const ticking = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(ticking);
  }, []);
  const running = withoutGroups(parts.flatMap((part) => part.running)).sort((a, b) =>
    (a.since ?? '').localeCompare(b.since ?? ''),
  );
  const live = parts.some((part) => part.live);
  if (!live) {
    return null;
  }
  return (
    <section
      aria-label="Running now"
      className="mt-2 flex min-h-8 flex-wrap items-baseline gap-x-4 gap-y-0.5 rounded-box bg-base-200 px-3 py-1 text-sm"
    >
      <span className="font-semibold">Running now</span>
      {running.length === 0 ? <span className="text-quiet">waiting for the next test</span> : null}
      {running.slice(0, SHOWN).map((test) => (
        <span key={`${test.suite.join('/')}/${test.name}`} className="inline-flex min-w-0 gap-1.5">
          <span className="max-w-72 truncate" title={[...test.suite, test.name].join(' › ')}>
            {test.name}
          </span>
          {test.since ? (
            <span className="text-quiet tabular-nums">
              {duration(Math.max(0, now - Date.parse(test.since)))}
            </span>
          ) : null}
        </span>
      ))}
      {running.length > SHOWN ? (
        <span className="text-quiet">and {running.length - SHOWN} more</span>
      ) : null}
    </section>
  );
}

/** A test that runs others inside it is not told beside them. */
function withoutGroups(running: Part['running']): Part['running'] {
  const groups = new Set(running.map((test) => test.suite.join('\n')));
  return running.filter((test) => !groups.has([...test.suite, test.name].join('\n')));
}
