import { Link } from '@tanstack/react-router';
import { count, plural } from '../../shared/lib/format';
import { OutageLine } from '../../shared/triage/OutageLine';
import { OutcomeGlyph } from '../../shared/ui/OutcomeGlyph';
import { RelativeTime } from '../../shared/ui/RelativeTime';
import { doubt, isQuiet, type Row } from './model';

/** Each stream in one line: its latest run, and what of it needs somebody. */
export function StreamLines({ project, rows }: { project: string; rows: Row[] }) {
  return (
    <ul className="mt-2 border-t border-base-300">
      {rows.map((row) => (
        <li
          key={row.stream.name}
          className="flex items-baseline gap-4 border-b border-base-300 px-2 py-2"
        >
          <span className="w-56 shrink-0 max-[899px]:w-40">
            <Link
              to="/$project/runs/$"
              params={{ project, _splat: `${row.stream.name}/${row.stream.latest.number}` }}
              search={row.today && row.today.failures > 0 ? { view: 'groups' as const } : {}}
              className={`link-hover break-words ${isQuiet(row) ? '' : 'font-semibold'}`}
            >
              {row.stream.name} #{row.stream.latest.number}
            </Link>
          </span>
          <span className="min-w-0 grow">
            <Says project={project} row={row} />
          </span>
          <span className="shrink-0 text-[13px] text-quiet">
            <RelativeTime iso={row.stream.latest.startedAt} />
          </span>
        </li>
      ))}
    </ul>
  );
}

function Says({ project, row }: { project: string; row: Row }) {
  const { stream, today } = row;
  const { counts } = stream.latest;
  const doubtful = doubt(stream);
  const failing = counts.failed + counts.errored + counts.setUps;
  return (
    <>
      {stream.missing ? (
        <p className="font-semibold text-errored">
          A run is missing, due <RelativeTime iso={stream.missing.expectedAt} />
        </p>
      ) : null}
      {today?.outage ? <OutageLine project={project} outage={today.outage} /> : null}
      {doubtful ? (
        <p className="font-semibold text-errored first-letter:uppercase">{doubtful}</p>
      ) : null}
      {failing === 0 ? (
        <p className="flex items-center gap-2 text-quiet">
          {doubtful ? null : <OutcomeGlyph outcome="passed" size={11} />}
          {plural(counts.passed, 'test')} passed
          {stream.latest.open ? ', still open' : ''}
        </p>
      ) : (
        <p>
          {today && today.open > 0 ? (
            <b className="font-semibold text-failed">{count(today.open)} unsorted</b>
          ) : (
            <span>{today?.explained === false ? 'being grouped' : 'all explained'}</span>
          )}{' '}
          <span className="text-quiet">
            of {plural(failing, 'failure')}
            {today && today.fresh > 0 ? `, ${plural(today.fresh, 'new cause')}` : ''}
            {stream.latest.open ? ', still open' : ''}
          </span>
        </p>
      )}
    </>
  );
}
