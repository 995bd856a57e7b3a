import { RotateCw } from 'lucide-react';
import { duration } from '../../../shared/lib/format';
import type { Category } from '../../../shared/triage/api';
import { CategoryMark } from '../../../shared/triage/CategoryMark';
import { asOutcome, OutcomeGlyph } from '../../../shared/ui/OutcomeGlyph';
import type { Result } from '../api';
import { VariantWords } from '../components/VariantWords';
import { displayName, isFailing, shortSuite } from '../model';

/** A result in a list: glyph, name, where it stands, what it said. */
export function ResultRow(props: {
  result: Result;
  withSuite: boolean;
  categories: Category[] | undefined;
  /** Whether its failure fails no gate. */
  quarantined?: boolean | undefined;
}) {
  const { result, withSuite } = props;
  const suite = result.suite.at(-1);
  return (
    <span className="flex min-w-0 items-start gap-2.5">
      <span className="mt-[3px]">
        <OutcomeGlyph outcome={asOutcome(result.outcome)} label />
      </span>
      <span className="min-w-0 grow">
        <span className="flex min-w-0 items-baseline gap-2">
          <span className="min-w-0 grow truncate" title={displayName(result)}>
            <span className={isFailing(result) ? 'font-semibold' : ''}>{result.name}</span>
            {result.parameters ? <span className="text-quiet">{result.parameters}</span> : null}
          </span>
          <VariantWords variant={result.variant} short />
          {result.change === 'new failing' ? (
            <span className="badge badge-xs shrink-0 border-0 bg-failed text-base-100">new</span>
          ) : null}
          {result.cause?.said ? (
            <span
              className="max-w-[40%] shrink truncate text-xs"
              title={`${result.cause.said.category}, ${result.cause.said.origin}${
                result.cause.said.comment ? `: ${result.cause.said.comment}` : ''
              }`}
            >
              <CategoryMark name={result.cause.said.category} categories={props.categories} />
            </span>
          ) : null}
          {props.quarantined ? (
            <span className="badge badge-xs badge-outline shrink-0">in quarantine</span>
          ) : null}
          {result.reported ? (
            <span
              className="badge badge-xs badge-outline shrink-0"
              title={`Reported as ${result.reported}`}
            >
              overruled
            </span>
          ) : null}
          {result.attempts > 1 ? (
            <span
              className="inline-flex shrink-0 items-center gap-0.5 text-xs text-quiet"
              title={`${result.attempts} attempts`}
            >
              <RotateCw size={11} aria-label="attempts" />
              {result.attempts}
            </span>
          ) : null}
          {result.durationMs === null ? null : (
            <span className="shrink-0 text-xs text-quiet tabular-nums">
              {duration(result.durationMs)}
            </span>
          )}
        </span>
        <span className="block truncate text-[13px] text-quiet">
          {withSuite && suite ? (
            <span title={result.suite.join(' › ')}>{shortSuite(suite)}</span>
          ) : null}
          {withSuite && suite && result.firstLine ? '  ·  ' : null}
          {result.firstLine ? <code title={result.firstLine}>{result.firstLine}</code> : null}
        </span>
      </span>
    </span>
  );
}
