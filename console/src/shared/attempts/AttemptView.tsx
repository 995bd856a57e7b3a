import { useMemo } from 'react';
import { duration } from '../lib/format';
import { OutcomeGlyph } from '../ui/OutcomeGlyph';
import { AttachmentList } from './AttachmentList';
import { Choice } from './Choice';
import { FailureView } from './FailureView';
import { LogLines } from './LogLines';
import { useLook } from './look';
import { Printed } from './Printed';
import { countLevels, countSteps, type Level, stepsThat } from './reading';
import { StepList } from './StepList';
import type { Attachment, Attempt } from './types';

/** What one try said: its failures, what it did, what it left behind, what it printed. */
export function AttemptView(props: {
  attempt: Attempt;
  href: (attachment: Attachment) => string;
  onWhole: () => void;
}) {
  const { attempt, href, onWhole } = props;
  const silent =
    attempt.failures.length === 0 &&
    !attempt.stdout &&
    !attempt.stderr &&
    attempt.steps.length + attempt.logs.length + attempt.attachments.length === 0;
  const { look, onLook } = useLook();
  const levels = useMemo(() => countLevels(attempt), [attempt]);
  const steps = useMemo(() => stepsThat(attempt.steps, look.steps), [attempt, look.steps]);
  const inSteps = new Set(placesIn(attempt.steps));
  const beside = attempt.attachments.filter((_, place) => !inSteps.has(place));
  return (
    <div className="mt-4 space-y-5">
      {attempt.failures.map((failure, i) => (
        <FailureView
          // biome-ignore lint/suspicious/noArrayIndexKey: failures are known by their place
          key={i}
          failure={failure}
          number={attempt.failures.length > 1 ? i + 1 : undefined}
          onWhole={onWhole}
        />
      ))}
      {attempt.steps.length > 0 ? (
        <section>
          <div className="flex flex-wrap items-center gap-x-2">
            <h3 className="font-semibold">Steps</h3>
            <Choice
              what="Steps by outcome"
              counts={countSteps(attempt.steps)}
              chosen={look.steps}
              onChoose={(chosen) => onLook({ steps: chosen })}
              word={(outcome) => (
                <>
                  <OutcomeGlyph outcome={outcome} size={11} /> {outcome}
                </>
              )}
            />
          </div>
          {steps.length === 0 ? (
            <p className="my-1 text-sm text-quiet">No step ended so.</p>
          ) : (
            <StepList steps={steps} attachments={attempt.attachments} href={href} />
          )}
        </section>
      ) : null}
      {beside.length > 0 ? (
        <section>
          <h3 className="font-semibold">Attachments</h3>
          <AttachmentList attachments={beside} href={href} />
        </section>
      ) : null}
      {levels.size > 1 || look.levels.length > 0 ? (
        <div className="flex flex-wrap items-center gap-x-2">
          <h3 className="font-semibold">Lines</h3>
          <Choice
            what="Lines by level"
            counts={levels}
            chosen={look.levels}
            onChoose={(chosen) => onLook({ levels: chosen })}
            word={levelWord}
          />
        </div>
      ) : null}
      {attempt.logs.length > 0 ? (
        <section>
          <h3 className="font-semibold">Log</h3>
          <LogLines lines={attempt.logs} />
        </section>
      ) : null}
      {attempt.stdout ? <Printed title="Output" text={attempt.stdout} onWhole={onWhole} /> : null}
      {attempt.stderr ? (
        <Printed title="Error output" text={attempt.stderr} onWhole={onWhole} />
      ) : null}
      {silent ? (
        <p className="text-quiet">
          The file tells nothing more of this
          {attempt.durationMs === null ? '' : `: it took ${duration(attempt.durationMs)}`}.
        </p>
      ) : null}
    </div>
  );
}

function placesIn(steps: Attempt['steps']): number[] {
  return steps.flatMap((step) => [...step.attachments, ...placesIn(step.steps)]);
}

function levelWord(level: Level): string {
  return level === 'none' ? 'without level' : level;
}
