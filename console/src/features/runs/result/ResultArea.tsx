import { useQuery } from '@tanstack/react-query';
import { Pin as PinIcon, PinOff } from 'lucide-react';
import { useMemo, useRef } from 'react';
import { shownAttempt } from '../../../shared/attempts/Attempts';
import { detailQuery } from '../../../shared/attempts/api';
import { LookContext } from '../../../shared/attempts/look';
import { useKey } from '../../../shared/lib/keys';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { type Run, runQuery } from '../api';
import { type Pin, pinText, type RunSearch, readPin } from '../model';
import { Before } from './Before';
import { FindBox } from './FindBox';
import { ResultPanel } from './ResultPanel';
import { StepsBeside } from './StepsBeside';

interface AreaProps {
  project: string;
  run: Run;
  result: string;
  search: RunSearch;
  onChange: (next: Partial<RunSearch>) => void;
}

/** The chosen result, beside the pinned one if there is one, and the search within both. */
export function ResultArea(props: AreaProps) {
  const { project, run, result, search, onChange } = props;
  const area = useRef<HTMLDivElement>(null);
  const detail = useQuery(detailQuery(project, run, result, false)).data;
  const pin = readPin(search.pin);
  const tries = detail?.attempts.length ?? 1;
  const attempt = detail ? shownAttempt(detail.attempts, search.attempt) : 1;
  const toggle = () => {
    if (pin) {
      onChange({ pin: undefined });
    } else if (detail) {
      onChange({
        pin: pinText({ stream: run.stream, number: run.number, result, attempt }),
        // With several tries, another one is what it is held against.
        attempt: tries > 1 ? (attempt === tries ? attempt - 1 : tries) : undefined,
      });
    }
  };
  useKey('p', toggle);
  const looking = useMemo(
    () => ({
      look: { find: search.find ?? '', steps: search.steps ?? [], levels: search.levels ?? [] },
      onLook: onChange,
    }),
    [search.find, search.steps, search.levels, onChange],
  );
  const itself =
    pin !== undefined &&
    pin.stream === run.stream &&
    pin.number === run.number &&
    pin.result === result &&
    (tries === 1 || pin.attempt === attempt);
  return (
    <LookContext value={looking}>
      <div className="flex min-h-0 min-w-0 flex-col">
        <div className="flex shrink-0 items-center justify-between gap-3 border-b border-base-300 px-6 py-2.5">
          <FindBox within={area} find={looking.look.find} onFind={(find) => onChange({ find })} />
          <button
            type="button"
            className="btn btn-sm btn-ghost gap-1 font-normal"
            aria-pressed={pin !== undefined}
            disabled={!pin && !detail}
            onClick={toggle}
            title="Hold this result beside another one  ( p )"
          >
            {pin ? <PinOff size={15} aria-hidden /> : <PinIcon size={15} aria-hidden />}
            {pin ? 'Unpin' : 'Pin'}
          </button>
        </div>
        {pin && detail && !itself ? (
          <StepsBeside project={project} run={run} result={result} attempt={attempt} pin={pin} />
        ) : null}
        <div
          ref={area}
          className={`min-h-0 grow ${
            pin
              ? 'divide-base-300 min-[900px]:grid min-[900px]:grid-cols-2 min-[900px]:divide-x'
              : 'flex flex-col'
          }`}
        >
          {pin ? (
            <Pinned
              key={`${pin.stream}/${pin.number}:${pin.result}`}
              project={project}
              pin={pin}
              onAttempt={(one) => onChange({ pin: pinText({ ...pin, attempt: one }) })}
            />
          ) : null}
          {itself && detail ? (
            <Empty title="What shall stand beside it?">
              <p>Choose another result of the list, or what this test did in an earlier run.</p>
              <div className="flex justify-center">
                <Before project={project} run={run} detail={detail} />
              </div>
            </Empty>
          ) : (
            <ResultPanel
              key={result}
              project={project}
              run={run}
              result={result}
              attempt={search.attempt}
              onAttempt={(one) => onChange({ attempt: one })}
              label="Result"
              beside={pin !== undefined}
            />
          )}
        </div>
      </div>
    </LookContext>
  );
}

/** A result that stays while others are chosen, also those of other runs. */
function Pinned(props: { project: string; pin: Pin; onAttempt: (attempt: number) => void }) {
  const { project, pin } = props;
  const run = useQuery(runQuery(project, pin.stream, pin.number));
  if (run.isPending) {
    return <Loading lines={8} />;
  }
  if (run.error) {
    return <Failed error={run.error} retry={() => run.refetch()} />;
  }
  return (
    <ResultPanel
      project={project}
      run={run.data}
      result={pin.result}
      attempt={pin.attempt}
      onAttempt={props.onAttempt}
      label="Pinned result"
      beside
    >
      <p className="mb-1 flex items-center gap-1.5 text-sm text-accent">
        <PinIcon size={13} aria-hidden /> pinned from {pin.stream} #{pin.number}
      </p>
    </ResultPanel>
  );
}
