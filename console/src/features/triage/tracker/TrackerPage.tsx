import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useOwns } from '../../../shared/session/may';
import { triageKeys } from '../../../shared/triage/keys';
import { AskTwice } from '../../../shared/ui/AskTwice';
import { Wrong } from '../../../shared/ui/Form';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { Failed, Loading } from '../../../shared/ui/States';
import { TriageNav } from '../TriageNav';
import { removeTracker, type Tracker, trackerQuery } from './api';
import { TrackerForm } from './TrackerForm';

/** The outside tracker: whether it can be worked with, and how it is spoken to. */
export function TrackerPage({ project }: { project: string }) {
  const owns = useOwns(project);
  const tracker = useQuery(trackerQuery(project));
  const client = useQueryClient();
  const removing = useMutation({
    mutationFn: () => removeTracker(project),
    onSettled: () => client.invalidateQueries({ queryKey: triageKeys.tracker(project) }),
  });
  if (tracker.isPending) {
    return <Loading lines={8} />;
  }
  if (tracker.error) {
    return <Failed page error={tracker.error} retry={() => tracker.refetch()} />;
  }
  const kept = tracker.data;
  return (
    <main className="min-h-0 grow overflow-y-auto">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-base-300 px-5 pt-4 pb-3">
        <h1 className="font-serif text-2xl">Triage</h1>
        <TriageNav project={project} />
      </header>
      <div className="mx-auto max-w-3xl px-5 py-5">
        <div className="flex items-start gap-4">
          <Standing tracker={kept} owns={owns} />
          {owns && kept.version > 0 ? (
            <span className="ml-auto shrink-0">
              <AskTwice
                label="Forget it"
                really="Really; tickets stay linked"
                disabled={removing.isPending}
                onYes={() => removing.mutate()}
              />
            </span>
          ) : null}
        </div>
        <Wrong error={removing.error} />
        {owns ? <TrackerForm key={kept.version} project={project} kept={kept} /> : null}
      </div>
    </main>
  );
}

/** In a sentence: who they are and how they do. */
function Standing({ tracker, owns }: { tracker: Tracker; owns: boolean }) {
  if (tracker.version === 0) {
    return (
      <p className="text-quiet">
        {owns
          ? 'Failure groups can be linked to entries of your tracker, as long as it speaks JSON over HTTP. Say here how.'
          : 'No tracker is set up. An owner of the project can do that.'}
      </p>
    );
  }
  return (
    <div>
      <p>
        <b className="font-semibold">{tracker.name}</b>{' '}
        {tracker.trouble ? (
          <span className="font-semibold text-errored">
            cannot be worked with
            {tracker.troubleAt ? (
              <>
                {' '}
                since <RelativeTime iso={tracker.troubleAt} />
              </>
            ) : null}
            : {tracker.trouble}
          </span>
        ) : (
          <span className="text-quiet">
            is asked how linked tickets stand
            {tracker.canCreate ? ', makes new ones' : ''}
            {tracker.canComment ? ', and is told what they are linked to' : ''}.
          </span>
        )}
      </p>
      {tracker.allowed ? null : (
        <p className="mt-1 text-errored">
          The operator of the portal has not allowed it to call this host: VINE_TRACKER_HOSTS.
        </p>
      )}
      {tracker.changedAt ? (
        <p className="text-sm text-quiet">
          As {tracker.changedBy} said, <RelativeTime iso={tracker.changedAt} />
        </p>
      ) : null}
    </div>
  );
}
