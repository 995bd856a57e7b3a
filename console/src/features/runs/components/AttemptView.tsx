import { duration } from '../../../shared/lib/format';
import { CopyButton } from '../../../shared/ui/CopyButton';
import { OutputBlock } from '../../../shared/ui/OutputBlock';
import type { Attachment, Attempt, Failure, LongText } from '../api';
import { AttachmentList } from './AttachmentList';
import { LogLines, StepList } from './StepList';
import { TraceView } from './TraceView';

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
          <h3 className="font-semibold">Steps</h3>
          <StepList steps={attempt.steps} attachments={attempt.attachments} href={href} />
        </section>
      ) : null}
      {beside.length > 0 ? (
        <section>
          <h3 className="font-semibold">Attachments</h3>
          <AttachmentList attachments={beside} href={href} />
        </section>
      ) : null}
      {attempt.logs.length > 0 ? (
        <section>
          <h3 className="font-semibold">Log</h3>
          <LogLines lines={attempt.logs} />
        </section>
      ) : null}
      {attempt.stdout ? <Output title="Output" text={attempt.stdout} onWhole={onWhole} /> : null}
      {attempt.stderr ? (
        <Output title="Error output" text={attempt.stderr} onWhole={onWhole} />
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

function FailureView(props: { failure: Failure; number: number | undefined; onWhole: () => void }) {
  const { failure, number } = props;
  return (
    <section>
      {failure.message || failure.type || number ? (
        <div className="flex items-center gap-2">
          <h3 className="font-semibold">{number ? `Message ${number}` : 'Message'}</h3>
          {failure.type ? <code className="truncate text-quiet">{failure.type}</code> : null}
          {failure.message ? <CopyButton text={failure.message.text} what="the message" /> : null}
        </div>
      ) : null}
      {failure.message ? (
        <div
          role="group"
          aria-label="Message"
          tabIndex={0}
          className="mt-1 max-h-96 overflow-auto rounded-box border-l-4 border-failed bg-base-200 px-4 py-3"
        >
          <OutputBlock text={failure.message.text} wrap />
        </div>
      ) : null}
      <WholeLink text={failure.message} onWhole={props.onWhole} />
      {failure.comparison ? (
        <dl className="mt-3 grid gap-3 min-[1100px]:grid-cols-2">
          <Side title="Expected" text={failure.comparison.expected} className="border-secondary" />
          <Side title="Actual" text={failure.comparison.actual} className="border-failed" />
        </dl>
      ) : null}
      {failure.trace ? (
        <div className="mt-4">
          <div className="flex items-center gap-2">
            <h3 className="font-semibold">Trace</h3>
            <CopyButton text={failure.trace.text} what="the trace" />
          </div>
          <TraceView blocks={failure.traceBlocks} />
          <WholeLink text={failure.trace} onWhole={props.onWhole} />
        </div>
      ) : null}
    </section>
  );
}

function Side({ title, text, className }: { title: string; text: string; className: string }) {
  return (
    <div className={`min-w-0 rounded-box border-t-4 bg-base-200 px-4 py-2 ${className}`}>
      <dt className="text-sm text-quiet">{title}</dt>
      <dd className="max-h-64 overflow-auto" tabIndex={0}>
        <pre className="break-words whitespace-pre-wrap">{text}</pre>
      </dd>
    </div>
  );
}

function Output(props: { title: string; text: LongText; onWhole: () => void }) {
  return (
    <section>
      <div className="flex items-center gap-2">
        <h3 className="font-semibold">{props.title}</h3>
        <CopyButton text={props.text.text} what={props.title.toLowerCase()} />
      </div>
      <div
        role="group"
        aria-label={props.title}
        tabIndex={0}
        className="mt-1 max-h-96 overflow-auto rounded-box bg-base-200 px-4 py-3"
      >
        <OutputBlock text={props.text.text} />
      </div>
      <WholeLink text={props.text} onWhole={props.onWhole} />
    </section>
  );
}

function WholeLink({ text, onWhole }: { text: LongText | null; onWhole: () => void }) {
  return text?.cut ? (
    <p className="mt-1 text-sm">
      The first {text.text.length.toLocaleString('en')} of {text.length.toLocaleString('en')}{' '}
      characters.{' '}
      <button type="button" className="link" onClick={onWhole}>
        Show all of it
      </button>
    </p>
  ) : null;
}
