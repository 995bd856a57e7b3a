import { Download } from 'lucide-react';
import { useState } from 'react';
import { fileAddress, type Report } from './api';
import type { ReportSearch } from './model';
import { ShapeDialog } from './ShapeDialog';

const WHOLE = [
  ['html', 'Page that needs no network (HTML)'],
  ['xlsx', 'Spreadsheet (XLSX)'],
  ['md', 'Markdown'],
  ['json', 'JSON'],
] as const;

/** A report as a file, whole or one of its tables, or in a shape of one's own. */
export function TakeAlong(props: { project: string; search: ReportSearch; report: Report }) {
  const { project, search, report } = props;
  const [shaping, setShaping] = useState(false);
  return (
    <>
      <details className="dropdown dropdown-end">
        <summary className="btn btn-sm">
          <Download size={14} aria-hidden />
          Take along
        </summary>
        <ul className="menu dropdown-content z-20 mt-1 w-80 rounded-box border border-base-300 bg-base-100 shadow-md">
          {WHOLE.map(([form, name]) => (
            <li key={form}>
              <a href={fileAddress(project, search, form)} download>
                {name}
              </a>
            </li>
          ))}
          <li className="menu-title font-normal text-quiet">One table (CSV)</li>
          {report.tables.map((table) => (
            <li key={table.word}>
              <a href={fileAddress(project, search, 'csv', table.word)} download>
                {table.title}
              </a>
            </li>
          ))}
          <li className="mt-1 border-t border-base-300 pt-1">
            <button
              type="button"
              onClick={(event) => {
                event.currentTarget.closest('details')?.removeAttribute('open');
                setShaping(true);
              }}
            >
              By a template …
            </button>
          </li>
        </ul>
      </details>
      {shaping ? (
        <ShapeDialog
          project={project}
          search={search}
          report={report}
          onClose={() => setShaping(false)}
        />
      ) : null}
    </>
  );
}
