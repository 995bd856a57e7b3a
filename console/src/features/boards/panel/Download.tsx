import { useQueryClient } from '@tanstack/react-query';
import { Download as DownloadIcon } from 'lucide-react';
import { useState } from 'react';
import { plural } from '../../../shared/lib/format';
import { fileAddress, sheetQuery } from '../api';
import { isChart, titleOf } from '../model';
import type { Panel, Switch } from '../types';

/** A panel to take along: its numbers as a file, its chart as a picture. */
export function Download(props: {
  project: string;
  board: number;
  /** Counted from 1. */
  place: number;
  panel: Panel;
  switched: Switch;
}) {
  const [open, setOpen] = useState(false);
  const title = titleOf(props.panel);
  return (
    <details className="dropdown dropdown-end" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary
        className="btn btn-xs btn-ghost btn-square"
        aria-label={`${title} to take along`}
        title={`${title} to take along`}
      >
        <DownloadIcon size={14} aria-hidden />
      </summary>
      {open ? <Forms {...props} title={title} /> : null}
    </details>
  );
}

function Forms(props: Parameters<typeof Download>[0] & { title: string }) {
  const { project, panel, switched, title } = props;
  const [error, setError] = useState('');
  const client = useQueryClient();
  const picture = async (kind: 'svg' | 'png') => {
    try {
      // What is on its way is waited for.
      const sheet = await client.ensureQueryData(sheetQuery(project, panel, switched));
      const { drawing, points } = await import('./picture');
      const time = `${plural(switched.days ?? panel.days, 'day')} until ${new Date().toISOString().slice(0, 10)}`;
      const svg = drawing(sheet, panel, title, time);
      keep(
        kind === 'svg' ? new Blob([svg], { type: 'image/svg+xml' }) : await points(svg),
        `${title.replaceAll(/[^A-Za-z0-9-]+/g, '-')}.${kind}`,
      );
      setError('');
    } catch (e) {
      setError(e instanceof Error ? e.message : String(e));
    }
  };
  return (
    <ul className="menu dropdown-content z-20 mt-1 w-44 rounded-box border border-base-300 bg-base-100 shadow-md">
      {(['csv', 'xlsx', 'md'] as const).map((form) => (
        <li key={form}>
          <a href={fileAddress(project, props.board, props.place, form, switched)} download>
            {FORMS[form]}
          </a>
        </li>
      ))}
      {isChart(panel.kind)
        ? (['svg', 'png'] as const).map((kind) => (
            <li key={kind}>
              <button type="button" onClick={() => void picture(kind)}>
                Picture ({kind.toUpperCase()})
              </button>
            </li>
          ))
        : null}
      {error === '' ? null : (
        <li role="alert" className="px-3 py-1 text-error">
          {error}
        </li>
      )}
    </ul>
  );
}

const FORMS = {
  csv: 'Table (CSV)',
  xlsx: 'Spreadsheet (XLSX)',
  md: 'Table (Markdown)',
};

function keep(blob: Blob, name: string) {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
