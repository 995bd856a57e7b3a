import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import type { Schemas } from '../../shared/api/client';
import { duration, plural } from '../../shared/lib/format';
import { didWords, STANDING_COLOURS, standingWords } from '../../shared/trust/standing';
import { TestName } from '../../shared/trust/TestName';
import { further } from './model';

type Taken = Schemas['TestInStream'];
type Quarantine = Schemas['Quarantine'];
type Ranked = Schemas['RankedTest'];

const MOST = 8;

/** Tests that were taken for flaky since somebody last looked, and are in no quarantine. */
export function FlakyLines({ project, flaky }: { project: string; flaky: Taken[] }) {
  return (
    <Lines
      title="Newly flaky"
      link={
        <Link to="/$project/tests" params={{ project }} className="link text-sm">
          {further(flaky.length, MOST, 'all flaky tests')}
        </Link>
      }
    >
      {flaky.slice(0, MOST).map(({ estimate, stream }) => (
        <li key={`${estimate.id} ${stream}`} className="border-b border-base-300">
          <Link
            to="/$project/tests"
            params={{ project }}
            search={{ test: estimate.id, in: stream }}
            className="flex items-start gap-4 px-2 py-2 hover:bg-base-200"
          >
            <span className="min-w-0 grow">
              <TestName test={estimate.test} variant={estimate.variant} />
            </span>
            <span className="shrink-0 text-right text-[13px] text-quiet">
              <span className="block">{stream}</span>
              <span className="block">
                failed in {estimate.stumbles} of {plural(estimate.runs, 'run')}
              </span>
            </span>
          </Link>
        </li>
      ))}
    </Lines>
  );
}

/** Tests that were seen to have become slower since somebody last looked. */
export function SlowerLines({ project, slower }: { project: string; slower: Ranked[] }) {
  return (
    <Lines
      title="Newly slower"
      link={
        <Link
          to="/$project/tests"
          params={{ project }}
          search={{ show: 'slowing' }}
          className="link text-sm"
        >
          {further(slower.length, MOST, 'all slower tests')}
        </Link>
      }
    >
      {slower.slice(0, MOST).map((one) => (
        <RankedLine
          key={`${one.id} ${one.stream}`}
          project={project}
          test={one}
          show="slowing"
          says={`${duration(one.beforeMillis ?? 0)}, now ${duration(one.millis ?? 0)}: ${duration(
            one.weeklyCostMillis,
          )} a week`}
          since={`since #${one.slowerSince}`}
        />
      ))}
    </Lines>
  );
}

/** Tests that were seen to have vanished since somebody last looked. */
export function GoneLines({ project, gone }: { project: string; gone: Ranked[] }) {
  return (
    <Lines
      title="Vanished"
      link={
        <Link
          to="/$project/tests"
          params={{ project }}
          search={{ show: 'missing' }}
          className="link text-sm"
        >
          {further(gone.length, MOST, 'all not run lately')}
        </Link>
      }
    >
      {gone.slice(0, MOST).map((one) => (
        <RankedLine
          key={`${one.id} ${one.stream}`}
          project={project}
          test={one}
          show="missing"
          says={`not in the latest ${plural(one.missing, 'run')}`}
          since={`last in #${one.lastRun}`}
        />
      ))}
    </Lines>
  );
}

function RankedLine(props: {
  project: string;
  test: Ranked;
  show: 'slowing' | 'missing';
  says: string;
  since: string;
}) {
  const { test } = props;
  return (
    <li className="border-b border-base-300">
      <Link
        to="/$project/tests"
        params={{ project: props.project }}
        search={{ show: props.show, test: test.id, in: test.stream }}
        className="flex items-start gap-4 px-2 py-2 hover:bg-base-200"
      >
        <span className="min-w-0 grow">
          <TestName test={test.test} variant={test.variant} />
        </span>
        <span className="shrink-0 text-right text-[13px] text-quiet">
          <span className="block">{props.says}</span>
          <span className="block">
            {test.stream}, {props.since}
          </span>
        </span>
      </Link>
    </li>
  );
}

/** Tests in quarantine that need a word: over, ending, clean or gone. */
export function QuarantineLines(props: { project: string; quarantine: Quarantine[] }) {
  const { project } = props;
  return (
    <Lines
      title="In quarantine, and needs a word"
      link={
        <Link
          to="/$project/tests"
          params={{ project }}
          search={{ show: 'quarantine' }}
          className="link text-sm"
        >
          {further(props.quarantine.length, MOST, 'all in quarantine')}
        </Link>
      }
    >
      {props.quarantine.slice(0, MOST).map((one) => (
        <li key={one.id} className="border-b border-base-300">
          <Link
            to="/$project/tests"
            params={{ project }}
            search={{
              show: 'quarantine',
              test: one.testId,
              ...(one.stream === null ? {} : { in: one.stream }),
            }}
            className="flex items-start gap-4 px-2 py-2 hover:bg-base-200"
          >
            <span className="min-w-0 grow">
              <TestName test={one.test} variant={one.variant} />
            </span>
            <span className="shrink-0 text-right text-[13px] text-quiet">
              <span className={`block ${STANDING_COLOURS[one.standing]}`}>
                {standingWords(one)}
              </span>
              <span className="block">
                {one.owner}: {didWords(one)}
              </span>
            </span>
          </Link>
        </li>
      ))}
    </Lines>
  );
}

function Lines(props: { title: string; link: ReactNode; children: ReactNode }) {
  return (
    <section>
      <div className="flex items-baseline justify-between">
        <h2 className="font-serif text-xl">{props.title}</h2>
        {props.link}
      </div>
      <ul className="mt-2 border-t border-base-300">{props.children}</ul>
    </section>
  );
}
