import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { PencilLine, Scale } from 'lucide-react';
import { useState } from 'react';
import { NoteDialog } from '../../../shared/edits/NoteDialog';
import { NoteWords } from '../../../shared/edits/NoteWords';
import { OverruleDialog } from '../../../shared/edits/OverruleDialog';
import { Overruled } from '../../../shared/edits/Overruled';
import { duration, plural } from '../../../shared/lib/format';
import { useMayEdit } from '../../../shared/session/may';
import { CopyButton } from '../../../shared/ui/CopyButton';
import { MarkdownText } from '../../../shared/ui/MarkdownText';
import { asOutcome, OutcomeGlyph, outcomeColour } from '../../../shared/ui/OutcomeGlyph';
import { Failed, Loading } from '../../../shared/ui/States';
import { type Attachment, attachmentHref, type Detail, detailQuery, type Run } from '../api';
import { displayName } from '../model';
import { Picture } from './AttachmentList';
import { AttemptView } from './AttemptView';

/** One result with all that its file told. */
export function ResultPanel(props: { project: string; run: Run; result: string }) {
  const [full, setFull] = useState(false);
  const detail = useQuery(detailQuery(props.project, props.run, props.result, full));
  if (detail.isPending) {
    return <Loading lines={8} />;
  }
  if (detail.error) {
    return <Failed error={detail.error} retry={() => detail.refetch()} />;
  }
  return (
    <section
      aria-label="Result"
      className="min-h-0 min-w-0 px-6 py-4 min-[900px]:overflow-y-auto"
      tabIndex={0}
    >
      <Head project={props.project} run={props.run} detail={detail.data} />
      <Before project={props.project} run={props.run} detail={detail.data} />
      <StoppedBy project={props.project} run={props.run} detail={detail.data} />
      <Attempts
        key={props.result}
        detail={detail.data}
        href={(one) => attachmentHref(props.project, props.run, one)}
        onWhole={() => setFull(true)}
      />
      <Properties detail={detail.data} />
    </section>
  );
}

function Head({ project, run, detail }: { project: string; run: Run; detail: Detail }) {
  const mayEdit = useMayEdit(project);
  const [dialog, setDialog] = useState<'note' | 'outcome'>();
  const close = () => setDialog(undefined);
  const { result } = detail;
  const outcome = asOutcome(result.outcome);
  return (
    <>
      <p className="text-sm break-words text-quiet">{result.suite.join(' › ')}</p>
      <div className="mt-0.5 flex items-start gap-2">
        <h2
          className="line-clamp-4 min-w-0 font-serif text-xl break-words"
          title={displayName(result)}
        >
          {result.name}
          {result.parameters ? <span className="text-quiet">{result.parameters}</span> : null}
        </h2>
        <CopyButton text={displayName(result)} what="the name of the test" />
      </div>
      <p className="mt-1.5 flex flex-wrap items-center gap-x-4 gap-y-1">
        <span
          className={`inline-flex items-center gap-1.5 font-semibold ${outcomeColour(outcome)}`}
        >
          <OutcomeGlyph outcome={outcome} />
          {outcome}
          {result.change ? <span className="font-normal">({result.change})</span> : null}
        </span>
        {result.durationMs === null ? null : (
          <span className="text-quiet">{duration(result.durationMs)}</span>
        )}
        <span className="text-quiet">{detail.part}</span>
        {detail.file ? (
          <code className="break-all text-quiet">
            {detail.file}
            {detail.line ? `:${detail.line}` : ''}
          </code>
        ) : null}
        <NoteWords
          labels={detail.note.labels}
          tags={[...new Set([...detail.tags, ...detail.note.tags])]}
        />
        {result.setUp || !mayEdit ? null : (
          <button
            type="button"
            className="link-hover inline-flex items-center gap-1 text-sm text-quiet"
            onClick={() => setDialog('outcome')}
          >
            <Scale size={13} aria-hidden /> overrule
          </button>
        )}
        {mayEdit ? (
          <button
            type="button"
            className="link-hover inline-flex items-center gap-1 text-sm text-quiet"
            onClick={() => setDialog('note')}
          >
            <PencilLine size={13} aria-hidden /> describe
          </button>
        ) : null}
      </p>
      {detail.overruling ? <Overruled overruling={detail.overruling} /> : null}
      {detail.note.description ? (
        <div className="mt-3 border-l-2 border-accent pl-3">
          <MarkdownText text={detail.note.description} />
        </div>
      ) : null}
      {dialog === 'note' ? (
        <NoteDialog
          project={project}
          subject={{ kind: 'test', id: result.testId }}
          title={`About ${displayName(result)}`}
          onClose={close}
        />
      ) : null}
      {dialog === 'outcome' ? (
        <OverruleDialog
          project={project}
          run={run.id}
          result={result.id}
          name={displayName(result)}
          outcome={outcome}
          reported={result.reported === null ? null : asOutcome(result.reported)}
          onClose={close}
        />
      ) : null}
    </>
  );
}

/** The set-up whose failure kept the test from running. */
function StoppedBy({ project, run, detail }: { project: string; run: Run; detail: Detail }) {
  const cause = detail.stoppedBy;
  return cause ? (
    <p className="mt-4 rounded-box border-l-4 border-errored bg-base-200 px-4 py-2">
      Not reached, since{' '}
      <Link
        to="/$project/runs/$"
        params={{ project, _splat: `${run.stream}/${run.number}` }}
        search={(before) => ({ ...before, result: cause.id })}
        className="link font-semibold"
      >
        {displayName(cause)}
      </Link>{' '}
      failed{cause.firstLine ? `: ${cause.firstLine}` : ''}
    </p>
  ) : null;
}

/** What the test did in earlier runs of the stream. */
function Before({ project, run, detail }: { project: string; run: Run; detail: Detail }) {
  if (detail.before.length === 0) {
    return <p className="mt-3 text-sm text-quiet">Not seen in an earlier run of this stream.</p>;
  }
  const lastPass = detail.before.find((earlier) => earlier.outcome === 'passed');
  return (
    <div className="mt-3 flex flex-wrap items-center gap-x-3 text-sm">
      <span className="text-quiet">Before:</span>
      <ol
        className="flex flex-row-reverse flex-wrap justify-end"
        aria-label="Earlier runs, the newest first"
      >
        {detail.before.map((earlier) => (
          <li key={earlier.run}>
            <Link
              to="/$project/runs/$"
              params={{ project, _splat: `${run.stream}/${earlier.run}` }}
              search={{ result: earlier.result }}
              title={`#${earlier.run}: ${earlier.outcome}${earlier.retried ? ', retried' : ''}`}
              aria-label={`Run ${earlier.run}: ${earlier.outcome}`}
              className="flex h-6 w-[15px] items-center justify-center rounded-sm hover:bg-base-300"
            >
              <OutcomeGlyph outcome={asOutcome(earlier.outcome)} size={11} />
            </Link>
          </li>
        ))}
      </ol>
      {detail.result.outcome === 'passed' ? null : lastPass ? (
        <span className="text-quiet">
          last passed in{' '}
          <Link
            to="/$project/runs/$"
            params={{ project, _splat: `${run.stream}/${lastPass.run}` }}
            search={{ result: lastPass.result }}
            className="link"
          >
            #{lastPass.run}
          </Link>
        </span>
      ) : (
        <span className="text-quiet">
          no pass in the {plural(detail.before.length, 'run')} before
        </span>
      )}
    </div>
  );
}

interface AttemptsProps {
  detail: Detail;
  href: (attachment: Attachment) => string;
  onWhole: () => void;
}

function Attempts({ detail, href, onWhole }: AttemptsProps) {
  const all = detail.attempts;
  const [chosen, setChosen] = useState(() => tellingAttempt(all));
  const shown = all[chosen];
  return (
    <>
      {all.length > 1 ? (
        <fieldset className="mt-4 flex flex-wrap items-center gap-1">
          <legend className="sr-only">Attempts</legend>
          {all.map((attempt, i) => (
            <button
              // biome-ignore lint/suspicious/noArrayIndexKey: attempts are known by their number
              key={i}
              type="button"
              aria-pressed={i === chosen}
              onClick={() => setChosen(i)}
              className={`btn btn-sm gap-1.5 font-normal ${i === chosen ? 'btn-neutral' : ''}`}
            >
              <OutcomeGlyph outcome={asOutcome(attempt.outcome)} size={12} label />
              Attempt {i + 1}
            </button>
          ))}
        </fieldset>
      ) : null}
      <ImagesAcross attempts={all} href={href} />
      {shown ? <AttemptView attempt={shown} href={href} onWhole={onWhole} /> : null}
    </>
  );
}

/** What several attempts looked like, side by side. */
function ImagesAcross({
  attempts,
  href,
}: { attempts: Detail['attempts'] } & Pick<AttemptsProps, 'href'>) {
  const images = attempts.map((attempt) =>
    attempt.attachments.filter((one) => one.kept && one.kind === 'image'),
  );
  if (images.filter((some) => some.length > 0).length < 2) {
    return null;
  }
  return (
    <section className="mt-4">
      <h3 className="font-semibold">Images by attempt</h3>
      <div
        className="mt-1 flex gap-4 overflow-x-auto"
        tabIndex={0}
        role="group"
        aria-label="Images by attempt"
      >
        {images.map((some, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: attempts are known by their number
          <div key={i} className="shrink-0 space-y-2">
            <p className="text-sm text-quiet">Attempt {i + 1}</p>
            {some.map((image) => (
              <Picture key={image.id} image={image} href={href(image)} />
            ))}
          </div>
        ))}
      </div>
    </section>
  );
}

/** The last attempt that went wrong says more than the pass after it. */
function tellingAttempt(all: Detail['attempts']): number {
  const wrong = all.findLastIndex((attempt) => attempt.failures.length > 0);
  return wrong < 0 ? all.length - 1 : wrong;
}

function Properties({ detail }: { detail: Detail }) {
  const entries = Object.entries(detail.properties);
  if (entries.length === 0) {
    return null;
  }
  return (
    <section className="mt-6">
      <h3 className="font-semibold">Properties</h3>
      <dl className="mt-1 grid grid-cols-[minmax(6rem,auto)_1fr] gap-x-4 gap-y-1">
        {entries.map(([key, value]) => (
          <div key={key} className="contents">
            <dt className="break-all text-quiet">{key}</dt>
            <dd className="break-words whitespace-pre-wrap">{value}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
