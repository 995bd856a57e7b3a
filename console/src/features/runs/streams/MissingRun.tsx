import { CalendarX2 } from 'lucide-react';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import type { Stream } from '../api';

/** A run that is due by the stream's habit and did not come: its last one says nothing of today. */
export function MissingRun({ stream }: { stream: Stream }) {
  return stream.missing ? (
    <p className="flex items-center gap-1.5 text-sm font-semibold text-errored">
      <CalendarX2 aria-hidden size={16} className="shrink-0" />
      <span>
        a run is missing, due <RelativeTime iso={stream.missing.expectedAt} />
      </span>
    </p>
  ) : null;
}
