import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import { History, PencilLine, Scale } from 'lucide-react';
import { useState } from 'react';
import type { Detail } from '../../../shared/attempts/types';
import { NoteDialog } from '../../../shared/edits/NoteDialog';
import { NoteWords } from '../../../shared/edits/NoteWords';
import { OverruleDialog } from '../../../shared/edits/OverruleDialog';
import { Overruled } from '../../../shared/edits/Overruled';
import { duration } from '../../../shared/lib/format';
import { useKey } from '../../../shared/lib/keys';
import { useMayEdit } from '../../../shared/session/may';
import { CopyButton } from '../../../shared/ui/CopyButton';
import { MarkdownText } from '../../../shared/ui/MarkdownText';
import { asOutcome, OutcomeGlyph, outcomeColour } from '../../../shared/ui/OutcomeGlyph';
import { QuietButton } from '../../../shared/ui/QuietButton';
import { quarantinedQuery, type Run } from '../api';
import { VariantWords } from '../components/VariantWords';
import { displayName, isFailing } from '../model';
import { CauseLine } from './CauseLine';

/** Which test it is, how it ended, and what people say of it. */
export function ResultHead({
  project,
  run,
  detail,
}: {
  project: string;
  run: Run;
  detail: Detail;
}) {
  const mayEdit = useMayEdit(project);
  const [dialog, setDialog] = useState<'note' | 'outcome'>();
  const close = () => setDialog(undefined);
  const navigate = useNavigate();
  useKey('h', () => {
    if (!detail.result.setUp) {
      void navigate({
        to: '/$project/tests',
        params: { project },
        search: { test: detail.result.testId, in: run.stream },
      });
    }
  });
  const { result } = detail;
  const quarantined = useQuery({ ...quarantinedQuery(project, run), enabled: isFailing(result) });
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
        <span className="flex flex-wrap gap-1 self-center">
          <VariantWords variant={result.variant} />
        </span>
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
        {isFailing(result) && quarantined.data?.tests.includes(result.testId) ? (
          <span className="badge badge-sm badge-outline" title="It fails no gate">
            in quarantine
          </span>
        ) : null}
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
        {result.setUp ? null : (
          <Link
            to="/$project/tests"
            params={{ project }}
            search={{ test: result.testId, in: run.stream }}
            className="inline-flex items-center gap-1 text-quiet hover:text-base-content"
          >
            <History size={14} aria-hidden /> history
          </Link>
        )}
        {result.setUp || !mayEdit ? null : (
          <QuietButton icon={Scale} word="overrule" onClick={() => setDialog('outcome')} />
        )}
        {mayEdit ? (
          <QuietButton icon={PencilLine} word="describe" onClick={() => setDialog('note')} />
        ) : null}
      </p>
      {result.cause ? <CauseLine project={project} run={run} cause={result.cause} /> : null}
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
