import { plural } from '../../../shared/lib/format';
import type { Cell, Sheet } from '../../../shared/sheets/api';
import { CellLink } from '../../../shared/sheets/CellLink';
import { isOutcome, OUTCOMES, OutcomeGlyph, outcomeColour } from '../../../shared/ui/OutcomeGlyph';
import { RelativeTime } from '../../../shared/ui/RelativeTime';

/** The latest run in figures. */
export function LatestRun({ project, sheet }: { project: string; sheet: Sheet }) {
  const row = sheet.rows[0];
  const cell = (key: string): Cell | undefined =>
    row?.[sheet.columns.findIndex((column) => column.key === key)];
  const at = cell('at')?.text;
  const run = cell('run');
  const fresh = cell('new failing');
  const fixed = cell('fixed');
  return (
    <div className="min-h-0 grow overflow-y-auto">
      <p className="text-[15px]">
        {run ? (
          <CellLink project={project} cell={run} className="font-semibold">
            {run.text}
          </CellLink>
        ) : null}
        {at ? (
          <span className="ml-2 text-quiet">
            <RelativeTime iso={at} />
          </span>
        ) : null}
      </p>
      <ul className="mt-2 grid grid-cols-[auto_auto_1fr] items-baseline gap-x-2.5 gap-y-0.5">
        {OUTCOMES.map((outcome) => {
          const counted = cell(outcome);
          return counted?.number && isOutcome(outcome) ? (
            <li key={outcome} className="contents">
              <span className="self-center">
                <OutcomeGlyph outcome={outcome} />
              </span>
              <CellLink
                project={project}
                cell={counted}
                className={`text-right font-serif text-2xl tabular-nums ${outcomeColour(outcome)}`}
              >
                {counted.number.toLocaleString('en')}
              </CellLink>
              <span>{outcome}</span>
            </li>
          ) : null;
        })}
      </ul>
      {fresh?.number || fixed?.number ? (
        <p className="mt-2 flex gap-4 text-[15px]">
          {fresh?.number ? (
            <CellLink project={project} cell={fresh} className="text-failed">
              {plural(fresh.number, 'test')} new failing
            </CellLink>
          ) : null}
          {fixed?.number ? (
            <CellLink project={project} cell={fixed} className="text-passed">
              {plural(fixed.number, 'test')} fixed
            </CellLink>
          ) : null}
        </p>
      ) : null}
    </div>
  );
}
