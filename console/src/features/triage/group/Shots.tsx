import { attachmentHref } from '../../../shared/attempts/types';
import type { GroupDetail } from '../../../shared/triage/api';
import { RunLink } from './RunLink';

/** Pictures of several results side by side: whether they look the same tells much. */
export function Shots({ project, shots }: { project: string; shots: GroupDetail['shots'] }) {
  // One alone stands with its result.
  if (shots.length < 2) {
    return null;
  }
  return (
    <section aria-label="Screenshots">
      <h3 className="mb-1.5 font-semibold">Screenshots side by side</h3>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-3">
        {shots.map((shot) => {
          const href = attachmentHref(project, { id: shot.run.run }, { id: shot.attachment });
          return (
            <li key={`${shot.run.run} ${shot.attachment}`} className="min-w-0">
              <figure>
                <a href={href} target="_blank" rel="noreferrer noopener">
                  <img
                    src={href}
                    alt={`${shot.test}: ${shot.name}`}
                    loading="lazy"
                    className="h-36 w-full rounded-box border border-base-300 bg-base-200 object-contain"
                  />
                </a>
                <figcaption className="mt-0.5 text-[13px]">
                  <span className="block truncate" title={shot.test}>
                    {shot.test.slice(shot.test.indexOf('#') + 1)}
                  </span>
                  <span className="block truncate text-quiet">
                    <RunLink project={project} run={shot.run} result={shot.result} />
                  </span>
                </figcaption>
              </figure>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
