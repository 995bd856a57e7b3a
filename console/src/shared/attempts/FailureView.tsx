import { CopyButton } from '../ui/CopyButton';
import { OutputBlock } from '../ui/OutputBlock';
import { TraceView } from './TraceView';
import type { Failure } from './types';
import { WholeLink } from './WholeLink';

/** What went wrong: the message, what was compared, and where. */
export function FailureView(props: {
  failure: Failure;
  number: number | undefined;
  onWhole: () => void;
}) {
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
