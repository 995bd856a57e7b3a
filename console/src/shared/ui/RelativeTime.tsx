import { useEffect, useState } from 'react';
import { exactTime, relativeTime } from '../lib/format';

/** How long ago, with the exact time on hover. */
export function RelativeTime({ iso }: { iso: string }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 30_000);
    return () => clearInterval(timer);
  }, []);
  return (
    <time dateTime={iso} title={exactTime(iso)} className="whitespace-nowrap">
      {relativeTime(iso, now)}
    </time>
  );
}
