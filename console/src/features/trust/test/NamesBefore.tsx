import { useMutation } from '@tanstack/react-query';
import { useMayEdit } from '../../../shared/session/may';
import { Wrong } from '../../../shared/ui/Form';
import { type Rename, sayRename, type TestDetail, useLearnedAnew } from '../api';
import type { TestsSearch } from '../model';
import { RunNumber } from './RunNumber';

/** What it was called before, as what it goes on, and why that is thought. */
export function NamesBefore(props: {
  project: string;
  stream: string;
  detail: TestDetail;
  onChange: (next: Partial<TestsSearch>) => void;
}) {
  const { names, becomes } = props.detail;
  const mayEdit = useMayEdit(props.project);
  const learned = useLearnedAnew(props.project);
  const saying = useMutation({
    mutationFn: ({ one, joined }: { one: Rename; joined: boolean }) =>
      sayRename(props.project, {
        stream: props.stream,
        oldTest: one.oldTest,
        newTest: one.newTest,
        joined,
      }),
    onSettled: learned,
  });
  if (names.length === 0 && becomes === null) {
    return null;
  }
  return (
    <div>
      <h3 className="font-semibold">
        {isAsked(names) ? 'Did it have another name before?' : 'Other names'}
      </h3>
      {becomes === null ? null : (
        <p className="mt-1 text-sm">
          It goes on under another name:{' '}
          <button type="button" className="link" onClick={() => props.onChange({ test: becomes })}>
            look at that one
          </button>
        </p>
      )}
      <ul className="mt-1 space-y-1.5 text-sm">
        {names.map((one) => (
          <li key={`${one.oldTest} ${one.newTest}`}>
            <span className="break-words">{one.old}</span>
            <span className="flex flex-wrap items-baseline gap-x-3 text-quiet">
              <span>
                <Until project={props.project} stream={props.stream} rename={one} />
              </span>
              {mayEdit
                ? answers(one).map((joined) => (
                    <button
                      key={String(joined)}
                      type="button"
                      className="link"
                      disabled={saying.isPending}
                      onClick={() => saying.mutate({ one, joined })}
                    >
                      {joined ? 'this is the same test' : 'these are two tests'}
                    </button>
                  ))
                : null}
            </span>
          </li>
        ))}
      </ul>
      <Wrong error={saying.error} />
    </div>
  );
}

/** Whether a name is offered of which nobody has said anything. */
export function isAsked(names: Rename[]): boolean {
  return names.some((one) => one.state === 'offered');
}

/** What can be said of a name: of one that is offered both. */
function answers(one: Rename): boolean[] {
  return one.state === 'offered' ? [true, false] : [one.state !== 'joined'];
}

/** Until when it was called so, and why that is thought. */
function Until(props: { project: string; stream: string; rename: Rename }) {
  const { rename } = props;
  if (rename.state === 'apart') {
    return 'another test, as somebody said';
  }
  return (
    <>
      {rename.state === 'joined' ? 'until ' : 'perhaps until '}
      {rename.run === null ? (
        'somebody joined them'
      ) : (
        <RunNumber
          project={props.project}
          stream={props.stream}
          run={rename.run}
          filter={undefined}
        />
      )}
      {rename.reasons.length > 0 ? `: ${rename.reasons.join(', ')}` : ''}
      {rename.state === 'joined' ? '' : ` (${Math.round(rename.likely * 100)} %)`}
    </>
  );
}
