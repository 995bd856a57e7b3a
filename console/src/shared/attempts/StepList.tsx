import { duration } from '../lib/format';
import { asOutcome, OutcomeGlyph } from '../ui/OutcomeGlyph';
import { OutputBlock } from '../ui/OutputBlock';
import { AttachmentList } from './AttachmentList';
import { LogLines } from './LogLines';
import type { Attachment, Step } from './types';

interface Shown {
  attachments: Attachment[];
  /** The address of a content. */
  href: (attachment: Attachment) => string;
}

/** The steps of a try as a document: what was done, with what, and how it went. */
export function StepList({ steps, ...shown }: { steps: Step[] } & Shown) {
  return (
    <ol className="mt-1 space-y-0.5">
      {steps.map((step, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: steps are known by their place
        <StepRow key={i} step={step} {...shown} />
      ))}
    </ol>
  );
}

function StepRow({ step, attachments, href }: { step: Step } & Shown) {
  const outcome = asOutcome(step.outcome);
  const wrong = outcome === 'failed' || outcome === 'errored';
  const own = step.attachments.flatMap((place) => attachments[place] ?? []);
  return (
    <li
      className={
        wrong
          ? 'rounded-box bg-base-200 px-2 py-1 shadow-[inset_3px_0_0_var(--color-failed)]'
          : 'px-2 py-1'
      }
    >
      <div className="flex items-start gap-2">
        <span className="mt-0.5 shrink-0">
          <OutcomeGlyph outcome={outcome} size={12} label />
        </span>
        <p
          className={`min-w-0 flex-1 break-words ${outcome === 'skipped' && !step.status ? 'text-quiet' : ''}`}
        >
          {step.keyword ? <span className="font-semibold">{step.keyword} </span> : null}
          {step.text}
          {step.status ? (
            <span className="badge badge-sm badge-ghost ml-2 align-middle">{step.status}</span>
          ) : null}
        </p>
        {step.durationMs === null || step.durationMs < 1 ? null : (
          <span className="shrink-0 text-sm text-quiet tabular-nums">
            {duration(step.durationMs)}
          </span>
        )}
      </div>
      <div className="ml-5">
        {step.message ? (
          <div className="my-1 text-sm">
            <OutputBlock text={step.message} wrap />
          </div>
        ) : null}
        {step.table.length > 0 ? <DataTable rows={step.table} /> : null}
        {step.argument ? (
          <pre className="my-1 overflow-x-auto rounded-box border border-base-300 px-3 py-1.5 text-sm">
            {step.argument}
          </pre>
        ) : null}
        {step.steps.length > 0 ? (
          <div className="border-l border-base-300 pl-1">
            <StepList steps={step.steps} attachments={attachments} href={href} />
          </div>
        ) : null}
        <LogLines lines={step.logs} />
        {own.length > 0 ? <AttachmentList attachments={own} href={href} /> : null}
      </div>
    </li>
  );
}

function DataTable({ rows }: { rows: string[][] }) {
  const [heading, ...body] = rows;
  return (
    <div className="my-1 overflow-x-auto" tabIndex={0} role="group" aria-label="Data table">
      <table className="table table-xs w-auto rounded-box border border-base-300">
        <thead>
          <tr>
            {heading?.map((cell, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: cells are known by their place
              <th key={i}>{cell}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {body.map((row, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows are known by their place
            <tr key={i}>
              {row.map((cell, j) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: cells are known by their place
                <td key={j}>{cell}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
