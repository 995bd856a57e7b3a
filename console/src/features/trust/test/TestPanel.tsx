import { useQuery } from '@tanstack/react-query';
import { CopyButton } from '../../../shared/ui/CopyButton';
import { Failed, Loading } from '../../../shared/ui/States';
import { historyQuery, type TestDetail, testQuery } from '../api';
import type { TestsSearch } from '../model';
import { QuarantineBox } from '../quarantine/QuarantineBox';
import { branchesApart } from './branches';
import { DurationChart } from './DurationChart';
import { EvidenceList } from './EvidenceList';
import { HistoryStrip } from './HistoryStrip';
import { LabelTable } from './LabelTable';
import { MomentList } from './MomentList';
import { isAsked, NamesBefore } from './NamesBefore';
import { RanBefore } from './RanBefore';
import { StreamChoice } from './StreamChoice';
import { StripsApart } from './StripsApart';
import { Verdict } from './Verdict';

/** One test: what it is taken for, why, and what it did before. */
export function TestPanel(props: {
  project: string;
  test: number;
  /** In which it is looked at; the one that had it last when none is said. */
  stream: string | undefined;
  branch: string | undefined;
  /** Whether what it did is shown by stream and branch. */
  apart: boolean;
  onChange: (next: Partial<TestsSearch>) => void;
}) {
  const { project } = props;
  const test = useQuery(testQuery(project, props.test));
  const stream = props.stream ?? test.data?.streams[0]?.stream ?? '';
  const names = (detail: TestDetail) => (
    <NamesBefore project={project} stream={stream} detail={detail} onChange={props.onChange} />
  );
  return (
    <section aria-label="Test" className="flex min-h-0 min-w-0 flex-col">
      {test.isPending ? <Loading lines={8} /> : null}
      {test.error ? <Failed error={test.error} retry={() => test.refetch()} /> : null}
      {test.data ? (
        <>
          <Head detail={test.data} />
          <div className="min-h-0 grow space-y-6 px-6 pb-6 min-[900px]:overflow-y-auto">
            <StreamChoice
              detail={test.data}
              stream={stream}
              branch={props.branch}
              onChange={props.onChange}
            />
            {isAsked(test.data.names) ? names(test.data) : null}
            {stream === '' ? (
              <p className="text-quiet">No run that was learned from has had it.</p>
            ) : (
              <>
                <QuarantineBox
                  project={project}
                  test={props.test}
                  stream={stream}
                  taken={test.data.streams.find((one) => one.stream === stream)}
                />
                <History {...props} stream={stream} detail={test.data} />
                <MomentList project={project} test={props.test} stream={stream} />
              </>
            )}
            {isAsked(test.data.names) ? null : names(test.data)}
          </div>
        </>
      ) : null}
    </section>
  );
}

function Head({ detail }: { detail: TestDetail }) {
  const name = `${detail.name}${detail.parameters ?? ''}`;
  return (
    <div className="shrink-0 px-6 pt-4 pb-3">
      <p className="text-sm break-words text-quiet">{detail.suite.join(' › ')}</p>
      <div className="mt-0.5 flex items-start gap-2">
        <h2 className="line-clamp-3 min-w-0 font-serif text-xl break-words" title={name}>
          {detail.name}
          {detail.parameters ? <span className="text-quiet">{detail.parameters}</span> : null}
        </h2>
        <CopyButton text={name} what="the name of the test" />
      </div>
      <p className="mt-1 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-sm text-quiet">
        {Object.entries(detail.variant).map(([key, value]) => (
          <span key={key} className="badge badge-xs badge-outline border-base-content/30">
            {key}={value}
          </span>
        ))}
        {detail.file ? <code className="break-all">{detail.file}</code> : null}
        {detail.tags.length > 0 ? <span>{detail.tags.join(', ')}</span> : null}
      </p>
    </div>
  );
}

function History(props: {
  project: string;
  test: number;
  stream: string;
  branch: string | undefined;
  apart: boolean;
  detail: TestDetail;
  onChange: (next: Partial<TestsSearch>) => void;
}) {
  const { project, stream } = props;
  const history = useQuery(historyQuery(project, props.test, stream, props.branch));
  const taken = props.detail.streams.find((one) => one.stream === stream);
  if (history.isPending) {
    return <Loading lines={6} />;
  }
  if (history.error) {
    return <Failed error={history.error} retry={() => history.refetch()} />;
  }
  const { data } = history;
  return (
    <>
      <Verdict project={project} stream={stream} taken={taken} history={data} />
      {props.apart ? (
        <StripsApart
          project={project}
          detail={props.detail}
          onTogether={() => props.onChange({ apart: undefined })}
        />
      ) : (
        <HistoryStrip
          project={project}
          stream={stream}
          results={data.results}
          onApart={
            props.detail.streams.length > 1 || branchesApart(data.results).length > 1
              ? () => props.onChange({ apart: true })
              : undefined
          }
        />
      )}
      <EvidenceList project={project} stream={stream} evidence={data.evidence} />
      <RanBefore order={data.order} onChange={props.onChange} />
      <LabelTable labels={data.labels} />
      <DurationChart project={project} stream={stream} history={data} />
    </>
  );
}
