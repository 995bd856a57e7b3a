import { ExternalLink } from 'lucide-react';
import { bytes, plural } from '../../../shared/lib/format';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import type { Bundle } from './api';

const SANDBOX = 'allow-scripts allow-forms allow-popups allow-downloads';

/** Never for what comes from where the portal is: it could open its own sandbox. */
function mayHaveOrigin(bundle: Bundle) {
  return bundle.ownOrigin && new URL(bundle.url).hostname !== window.location.hostname;
}

/**
 * A page that a job made itself. It runs on another origin and in a sandbox, so that nothing in it
 * can reach what is here.
 */
export function BundleFrame({ bundle }: { bundle: Bundle }) {
  return (
    <section aria-label={bundle.title} className="flex min-h-0 grow flex-col">
      <p className="flex flex-wrap items-center gap-x-4 px-5 py-1.5 text-sm text-quiet">
        <span>
          made by the job, <RelativeTime iso={bundle.createdAt} />
        </span>
        <span>
          {plural(bundle.files, 'file')}, {bytes(bundle.bytes)}
        </span>
        <a
          href={bundle.url}
          target="_blank"
          rel="noreferrer noopener"
          className="link inline-flex items-center gap-1"
        >
          in a window of its own <ExternalLink size={13} aria-hidden />
        </a>
      </p>
      <iframe
        title={bundle.title}
        src={bundle.url}
        sandbox={mayHaveOrigin(bundle) ? `${SANDBOX} allow-same-origin` : SANDBOX}
        referrerPolicy="no-referrer"
        className="min-h-[24rem] w-full grow border-t border-base-300 bg-white"
      />
    </section>
  );
}
