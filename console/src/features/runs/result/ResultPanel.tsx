import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { Attempts } from '../../../shared/attempts/Attempts';
import { detailQuery } from '../../../shared/attempts/api';
import { attachmentHref } from '../../../shared/attempts/types';
import { Failed, Loading } from '../../../shared/ui/States';
import type { Run } from '../api';
import { Before } from './Before';
import { Elsewhere } from './Elsewhere';
import { Properties } from './Properties';
import { ResultHead } from './ResultHead';
import { StoppedBy } from './StoppedBy';

/** One result with all that its file told. */
export function ResultPanel(props: {
  project: string;
  run: Run;
  result: string;
  attempt: number | undefined;
  onAttempt: (attempt: number) => void;
  label: string;
  /** Whether another result stands beside it. */
  beside: boolean;
  /** What stands above it. */
  children?: ReactNode;
}) {
  const { project, run } = props;
  const [full, setFull] = useState(false);
  const detail = useQuery(detailQuery(project, run, props.result, full));
  return (
    <section
      aria-label={props.label}
      className="min-h-0 min-w-0 px-6 py-3 min-[900px]:overflow-y-auto"
      tabIndex={0}
    >
      {props.children}
      {detail.isPending ? <Loading lines={8} /> : null}
      {detail.error ? <Failed error={detail.error} retry={() => detail.refetch()} /> : null}
      {detail.data ? (
        <>
          <ResultHead project={project} run={run} detail={detail.data} />
          <Elsewhere project={project} run={run} detail={detail.data} />
          <Before project={project} run={run} detail={detail.data} />
          <StoppedBy project={project} run={run} detail={detail.data} />
          <Attempts
            detail={detail.data}
            attempt={props.attempt}
            onAttempt={props.onAttempt}
            across={!props.beside}
            href={(one) => attachmentHref(project, run, one)}
            onWhole={() => setFull(true)}
          />
          <Properties detail={detail.data} />
        </>
      ) : null}
    </section>
  );
}
