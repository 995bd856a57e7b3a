import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { plural } from '../../../shared/lib/format';
import { useKey } from '../../../shared/lib/keys';
import { sessionQuery } from '../../../shared/session/api';
import { useMayEdit } from '../../../shared/session/may';
import { didWords, STANDING_COLOURS, standingWords } from '../../../shared/trust/standing';
import { AskTwice } from '../../../shared/ui/AskTwice';
import { Wrong } from '../../../shared/ui/Form';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import {
  endQuarantine,
  type Quarantine,
  quarantineOfQuery,
  type Taken,
  useTrustAgain,
} from '../api';
import { percent } from '../model';
import { TestDialog } from './TestDialog';

/** Whether a test is in quarantine where it is looked at, and was before; and the way there. */
export function QuarantineBox(props: {
  project: string;
  test: number;
  stream: string;
  taken: Taken | undefined;
}) {
  const { project, stream, taken } = props;
  const mayEdit = useMayEdit(project);
  const session = useQuery(sessionQuery);
  const all = useQuery(quarantineOfQuery(project, props.test));
  const [asked, setAsked] = useState<Quarantine | 'new'>();
  const here = (all.data ?? []).filter((one) => one.stream === null || one.stream === stream);
  const kept = here.filter((one) => one.standing !== 'ended');
  const holds = kept.some((one) => one.standing !== 'over');
  const mayAdd = mayEdit && all.data !== undefined && !holds;
  useKey('q', () => {
    if (mayAdd) {
      setAsked('new');
    }
  });
  if (!all.data || (here.length === 0 && !mayEdit)) {
    return null;
  }
  const past = here.length - kept.length;
  return (
    <div className="space-y-2">
      {kept.map((one) => (
        <Kept
          key={one.id}
          project={project}
          one={one}
          mayEdit={mayEdit}
          onChange={() => setAsked(one)}
        />
      ))}
      {mayAdd ? (
        <button type="button" className="btn btn-sm" onClick={() => setAsked('new')}>
          Put into quarantine <kbd className="kbd kbd-xs">q</kbd>
        </button>
      ) : null}
      {past > 0 ? (
        <p className="text-[13px] text-quiet">
          Was in quarantine here {plural(past, 'time')} before, the last until{' '}
          {here.find((one) => one.standing === 'ended')?.endedAt?.slice(0, 10)}:{' '}
          {here.find((one) => one.standing === 'ended')?.reason}
        </p>
      ) : null}
      {asked === undefined ? null : (
        <TestDialog
          project={project}
          test={props.test}
          stream={stream}
          owner={session.data?.login ?? ''}
          reason={reason(taken)}
          of={asked === 'new' ? undefined : asked}
          onClose={() => setAsked(undefined)}
        />
      )}
    </div>
  );
}

function reason(taken: Taken | undefined): string {
  const estimate = taken?.estimate;
  return estimate?.verdict === 'flaky' && estimate.rate !== null
    ? `fails by chance, in ${percent(estimate.rate)} of its tries`
    : '';
}

function Kept(props: { project: string; one: Quarantine; mayEdit: boolean; onChange: () => void }) {
  const { one } = props;
  const again = useTrustAgain(props.project);
  const ending = useMutation({
    mutationFn: () => endQuarantine(props.project, one.id),
    onSuccess: again,
  });
  return (
    <div className="rounded-box border border-base-300 border-l-[3px] border-l-primary px-4 py-3">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span className="font-semibold">In quarantine</span>
        <span className={STANDING_COLOURS[one.standing]}>{standingWords(one)}</span>
        <span className="text-quiet">{one.stream === null ? 'in every stream' : 'here'}</span>
      </p>
      <p className="mt-1 break-words">
        <span className="font-semibold">{one.owner}</span>: {one.reason}
        {one.ticket === null ? null : (
          <>
            {' '}
            <Ticket ticket={one.ticket} />
          </>
        )}
      </p>
      <p className="mt-1 text-[13px] text-quiet">
        Put there <RelativeTime iso={one.since} /> by {one.by}; {didWords(one)}
      </p>
      {props.mayEdit ? (
        <div className="mt-2 flex flex-wrap gap-2">
          {one.standing === 'over' ? null : (
            <button type="button" className="btn btn-sm" onClick={props.onChange}>
              Change or prolong
            </button>
          )}
          <AskTwice
            label={one.standing === 'over' ? 'Take it off the list' : 'End it'}
            really={one.standing === 'over' ? 'Take it off' : 'End: failures count again'}
            disabled={ending.isPending}
            onYes={() => ending.mutate()}
          />
        </div>
      ) : null}
      <Wrong error={ending.error} />
    </div>
  );
}

/** An address is a link; what else it is, the portal cannot know. */
function Ticket({ ticket }: { ticket: string }) {
  return /^https?:\/\/\S+$/i.test(ticket) ? (
    <a href={ticket} className="link break-all" rel="noreferrer" target="_blank">
      {ticket}
    </a>
  ) : (
    <span className="text-quiet">({ticket})</span>
  );
}
