import { useMemo } from 'react';
import { count } from '../lib/format';
import { CopyButton } from '../ui/CopyButton';
import { OutputBlock } from '../ui/OutputBlock';
import { Folded } from './Folded';
import { NoneOf } from './LogLines';
import { useLook } from './look';
import { fold, linesOf } from './reading';
import type { LongText } from './types';
import { WholeLink } from './WholeLink';

/** What a try printed, as far as its lines are of the levels that are looked at. */
export function Printed(props: { title: string; text: LongText; onWhole: () => void }) {
  const { text } = props.text;
  const { levels } = useLook().look;
  const lines = useMemo(() => linesOf(text), [text]);
  const wanted = useMemo(
    () => (levels.length === 0 ? lines : lines.filter((line) => levels.includes(line.level))),
    [lines, levels],
  );
  const folds = useMemo(() => fold(wanted, (line) => line.text), [wanted]);
  return (
    <section>
      <div className="flex items-center gap-2">
        <h3 className="font-semibold">{props.title}</h3>
        {wanted.length < lines.length ? (
          <span className="text-sm text-quiet">
            {count(wanted.length)} of {count(lines.length)} lines
          </span>
        ) : null}
        <CopyButton text={text} what={props.title.toLowerCase()} />
      </div>
      {wanted.length === 0 ? (
        <NoneOf lines={lines.length} />
      ) : (
        <div
          role="group"
          aria-label={props.title}
          tabIndex={0}
          className="mt-1 max-h-96 overflow-auto rounded-box bg-base-200 px-4 py-3"
        >
          {folds.map((one, i) => (
            <Folded
              // biome-ignore lint/suspicious/noArrayIndexKey: lines are known by their place
              key={i}
              fold={one}
              show={(some) => <OutputBlock text={some.map((line) => line.text).join('\n')} />}
            />
          ))}
        </div>
      )}
      <WholeLink text={props.text} onWhole={props.onWhole} />
    </section>
  );
}
