import { useQuery } from '@tanstack/react-query';
import { count, plural } from '../../../shared/lib/format';
import {
  type Category,
  type Group,
  type GroupDetail,
  groupQuery,
} from '../../../shared/triage/api';
import { GroupTitle } from '../../../shared/triage/GroupTitle';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { Failed, Loading } from '../../../shared/ui/States';
import { GroupDecide } from './GroupDecide';
import { PastDecisions } from './PastDecisions';
import { RegroupedList } from './RegroupedList';
import { RunLink } from './RunLink';
import { SampleFailure } from './SampleFailure';
import { Shots } from './Shots';
import { SimilarGroups } from './SimilarGroups';
import { Strip } from './Strip';
import { Tickets } from './Tickets';
import { Values } from './Values';
import { WhereSeen } from './WhereSeen';
import { WhichTests } from './WhichTests';

/** One failure group with all that helps to explain it. */
export function GroupPanel(props: {
  project: string;
  id: number;
  /** As the list tells it; when it was asked for, in milliseconds. */
  known: Group | undefined;
  knownAt: number;
  categories: Category[] | undefined;
  /** Groups that were marked: what is decided is decided of them. */
  marked: Group[];
  onMark: () => void;
  onGroup: (group: number) => void;
  onDecided: () => void;
  /** To the next one that nobody explained; undefined when there is none. */
  onNext: (() => void) | undefined;
}) {
  const { project, categories } = props;
  const group = useQuery(groupQuery(project, props.id));
  // What was looked at before may be older than the list: what nobody had explained is, perhaps.
  const line = props.known && props.knownAt > group.dataUpdatedAt ? props.known : group.data?.line;
  return (
    <section aria-label="Chosen group" className="flex min-h-0 min-w-0 flex-col" tabIndex={0}>
      {line ? (
        <div className="shrink-0 border-b border-base-300 bg-base-200/60 px-6 py-3">
          <h2 className="line-clamp-2 font-serif text-xl leading-snug break-words">
            <GroupTitle group={line} />
          </h2>
          <p className="mt-0.5 mb-2 text-sm text-quiet">
            One group: <Reason sentence={line.sentence} />
          </p>
          <GroupDecide
            project={project}
            line={line}
            categories={categories}
            marked={props.marked}
            onMark={props.onMark}
            suggestion={group.data?.suggestion ?? undefined}
            onGroup={props.onGroup}
            onDecided={props.onDecided}
            onNext={props.onNext}
          />
        </div>
      ) : null}
      {group.isPending ? <Loading lines={8} /> : null}
      {group.error ? <Failed error={group.error} retry={() => group.refetch()} /> : null}
      {group.data ? <Inside {...props} detail={group.data} /> : null}
    </section>
  );
}

/** What is known of it. */
function Inside(props: {
  project: string;
  detail: GroupDetail;
  categories: Category[] | undefined;
  onGroup: (group: number) => void;
}) {
  const { project, detail, categories } = props;
  const { line } = detail;
  return (
    <div className="min-h-0 grow space-y-6 px-6 py-4 min-[900px]:overflow-y-auto">
      {line.disputed ? (
        <p
          role="note"
          className="rounded-box border border-errored/50 bg-base-200 px-3 py-2 text-sm"
        >
          <b>Two explanations of this group differ.</b> Nothing is carried to new results until one
          of them is taken back, under{' '}
          <a href="#what-was-decided" className="link">
            What was decided
          </a>
          , or the group is explained anew, above.
        </p>
      ) : null}
      <div>
        <p className="text-sm">
          <b>{plural(line.results, 'result')}</b>
          {line.open > 0 && line.open < line.results ? `, ${count(line.open)} unsorted` : ''}
          <span className="text-quiet">
            {' '}
            of {plural(line.tests, 'test')} in {plural(line.runs, 'run')} of{' '}
            {plural(line.streams, 'stream')} · first{' '}
            <RunLink project={project} run={line.first} group={line.group} />,{' '}
            <RelativeTime iso={line.first.at} /> · last{' '}
            <RunLink project={project} run={line.last} group={line.group} />,{' '}
            <RelativeTime iso={line.last.at} />
          </span>
        </p>
        <Values values={detail.values} />
        <Strip project={project} group={line.group} runs={detail.strip} />
      </div>
      <Tickets project={project} line={line} />
      <WhereSeen project={project} group={line.group} streams={detail.streams} />
      <Shots project={project} shots={detail.shots} />
      <SampleFailure project={project} line={line} />
      <WhichTests
        project={project}
        group={line.group}
        tests={detail.tests}
        onGroup={props.onGroup}
        total={line.tests}
        results={line.results}
      />
      <SimilarGroups similar={detail.similar} categories={categories} onGroup={props.onGroup} />
      <RegroupedList
        project={project}
        group={line.group}
        regrouped={detail.regrouped}
        onGroup={props.onGroup}
      />
      <PastDecisions project={project} past={detail.past} categories={categories} />
    </div>
  );
}

/** A sentence with names of programs in it. */
function Reason({ sentence }: { sentence: string }) {
  return sentence.split('`').map((part, i) =>
    i % 2 === 1 ? (
      // biome-ignore lint/suspicious/noArrayIndexKey: the parts of a text never change places
      <code key={i} className="font-mono text-[13px] text-base-content">
        {part}
      </code>
    ) : (
      part
    ),
  );
}
