import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { Failed, Loading } from '../../../shared/ui/States';
import { type Moment, momentsQuery } from '../api';
import { type Fold, folded, told, toldFold } from './moment';
import { RunNumber } from './RunNumber';

/** So many are shown at first. */
const FIRST = 8;

/** What happened to a test, and what people said of it, in one line of time. */
export function MomentList(props: { project: string; test: number; stream: string }) {
  const moments = useQuery(momentsQuery(props.project, props.test, props.stream));
  const [all, setAll] = useState(false);
  if (moments.isPending) {
    return <Loading lines={3} />;
  }
  if (moments.error) {
    return <Failed error={moments.error} retry={() => moments.refetch()} />;
  }
  if (moments.data.length === 0) {
    return null;
  }
  const lines = folded(moments.data);
  const shown = all ? lines : lines.slice(0, FIRST);
  const more = lines.length - shown.length;
  return (
    <div>
      <h3 className="font-semibold">What happened</h3>
      <ol aria-label="What happened" className="mt-1 text-sm">
        {shown.map((one) => {
          const moment = 'latest' in one ? one.latest : one;
          return (
            <li
              key={`${moment.at} ${moment.kind} ${moment.run} ${moment.what} ${moment.before}`}
              className="flex gap-x-4 border-b border-base-300 py-1.5 last:border-b-0"
            >
              <span className="w-24 shrink-0 text-quiet">
                <RelativeTime iso={moment.at} />
              </span>
              {'latest' in one ? (
                <NowAndThen project={props.project} fold={one} stream={props.stream} />
              ) : (
                <Said project={props.project} moment={one} stream={props.stream} />
              )}
            </li>
          );
        })}
      </ol>
      {more > 0 ? (
        <button type="button" className="link text-sm" onClick={() => setAll(true)}>
          {more} more
        </button>
      ) : null}
    </div>
  );
}

function NowAndThen(props: { project: string; fold: Fold; stream: string }) {
  const { fold, project, stream } = props;
  return (
    <div className="min-w-0 break-words">
      {toldFold(fold)}{' '}
      <RunNumber project={project} stream={stream} run={fold.first.run ?? 0} filter={undefined} />
      {' to '}
      <RunNumber
        project={project}
        stream={stream}
        run={fold.latest.lastRun ?? 0}
        filter={undefined}
      />
    </div>
  );
}

function Said(props: { project: string; moment: Moment; stream: string }) {
  const { moment } = props;
  const words = told(moment);
  const ends = moment.lastRun !== null && moment.lastRun !== moment.run ? moment.lastRun : null;
  return (
    <div className="min-w-0 break-words">
      {words.before}{' '}
      {moment.stream === null || moment.run === null ? null : (
        <>
          {moment.stream === props.stream ? null : `${moment.stream} `}
          <RunNumber
            project={props.project}
            stream={moment.stream}
            run={moment.run}
            filter={undefined}
            {...(moment.result === null ? {} : { result: moment.result })}
          />
        </>
      )}
      {ends === null || moment.stream === null ? null : (
        <>
          {' to '}
          <RunNumber project={props.project} stream={moment.stream} run={ends} filter={undefined} />
        </>
      )}
      {words.behind === '' ? null : ` ${words.behind}`}
      {words.quote === null ? null : (
        <p className="line-clamp-3 text-quiet whitespace-pre-line">{words.quote}</p>
      )}
    </div>
  );
}
