import { count, plural } from '../../../shared/lib/format';
import { OUTCOMES, OutcomeGlyph, outcomeColour } from '../../../shared/ui/OutcomeGlyph';
import type { Counts } from '../api';
import { COUNT_FIELDS } from '../model';

/** What a run came to, as glyphs with numbers; without what there is none of. */
export function CountsLine({ counts }: { counts: Counts }) {
  return (
    <span className="inline-flex flex-wrap items-center gap-x-3 gap-y-0.5 tabular-nums">
      {counts.setUps > 0 ? (
        <span className={`inline-flex items-center gap-1 ${outcomeColour('errored')}`}>
          <OutcomeGlyph outcome="errored" />
          {plural(counts.setUps, 'set-up')}
        </span>
      ) : null}
      {OUTCOMES.filter((outcome) => counts[COUNT_FIELDS[outcome]] > 0).map((outcome) => (
        <span key={outcome} className={`inline-flex items-center gap-1 ${outcomeColour(outcome)}`}>
          <OutcomeGlyph outcome={outcome} />
          {count(counts[COUNT_FIELDS[outcome]])}
          <span className="sr-only">{outcome}</span>
        </span>
      ))}
      {counts.tests + counts.setUps === 0 ? <span className="text-quiet">no tests</span> : null}
    </span>
  );
}
