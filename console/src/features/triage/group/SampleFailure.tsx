import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Attempts } from '../../../shared/attempts/Attempts';
import { detailQuery } from '../../../shared/attempts/api';
import { attachmentHref } from '../../../shared/attempts/types';
import type { Group } from '../../../shared/triage/api';
import { Failed, Loading } from '../../../shared/ui/States';
import { RunLink } from './RunLink';

/** One of its results in full: of the latest run, an unexplained one if there is one. */
export function SampleFailure({ project, line }: { project: string; line: Group }) {
  const [attempt, setAttempt] = useState<number>();
  const [full, setFull] = useState(false);
  const run = { id: line.last.run, version: 0 };
  const detail = useQuery(detailQuery(project, run, line.result, full));
  return (
    <section>
      <h3 className="font-semibold">The latest of them</h3>
      <p className="text-sm break-words text-quiet">
        {line.test} in{' '}
        <RunLink project={project} run={line.last} group={line.group} result={line.result} />
      </p>
      {detail.isPending ? <Loading lines={4} /> : null}
      {detail.error ? <Failed error={detail.error} retry={() => detail.refetch()} /> : null}
      {detail.data ? (
        <Attempts
          detail={detail.data}
          attempt={attempt}
          onAttempt={setAttempt}
          across
          href={(one) => attachmentHref(project, run, one)}
          onWhole={() => setFull(true)}
        />
      ) : null}
    </section>
  );
}
