import { duration, exactTime } from '../../../shared/lib/format';
import type { Part } from '../api';
import { needsALook, type Span } from '../model';

/** When a part ran, on the clock of the whole run. */
export function Lane({ part, span }: { part: Part; span: Span | null }) {
  if (!span || !part.startedAt || !part.endedAt) {
    return <span className="text-quiet">{duration(part.testTimeMs)} of tests</span>;
  }
  const whole = Math.max(span.to - span.from, 1);
  const left = ((Date.parse(part.startedAt) - span.from) / whole) * 100;
  const took = Date.parse(part.endedAt) - Date.parse(part.startedAt);
  const width = Math.max((took / whole) * 100, 0.8);
  const failing = needsALook(part.counts);
  return (
    <div
      title={`${exactTime(part.startedAt)} to ${exactTime(part.endedAt)}`}
      className="flex items-center gap-2"
    >
      <div className="relative h-3 min-w-24 flex-1 rounded-sm bg-base-200">
        <div
          className={`absolute inset-y-0 rounded-sm ${failing ? 'bg-failed' : 'bg-passed'} ${
            part.brokenOff ? 'opacity-60' : ''
          }`}
          style={{ left: `${left}%`, width: `${Math.min(width, 100 - left)}%` }}
        />
      </div>
      <span className="w-20 shrink-0 text-right tabular-nums">{duration(took)}</span>
    </div>
  );
}
