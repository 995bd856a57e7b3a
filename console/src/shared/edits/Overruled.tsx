import { RelativeTime } from '../ui/RelativeTime';
import type { Overruling } from './api';

/** Says that an outcome was set by somebody, and why. */
export function Overruled({ overruling }: { overruling: Overruling }) {
  return (
    <p className="mt-3 rounded-box border-l-4 border-accent bg-base-200 px-4 py-2">
      Reported as <span className="font-semibold">{overruling.reported}</span>; overruled by{' '}
      {overruling.by}, <RelativeTime iso={overruling.at} />: {overruling.reason}
    </p>
  );
}
