import { useQuery } from '@tanstack/react-query';
import { plural } from '../lib/format';
import { RelativeTime } from '../ui/RelativeTime';
import { editsQuery } from './api';
import type { Subject } from './keys';
import { editWords } from './model';

/** Who changed what, the newest first. */
export function EditHistory({ project, subject }: { project: string; subject: Subject }) {
  const edits = useQuery(editsQuery(project, subject));
  if (edits.error) {
    return (
      <p className="mt-4 text-sm text-error">
        Who changed what could not be read: {edits.error.message}
      </p>
    );
  }
  if (!edits.data || edits.data.length === 0) {
    return null;
  }
  return (
    <details className="mt-4 border-t border-base-300 pt-3 text-sm">
      <summary className="cursor-pointer text-quiet">
        {plural(edits.data.length, 'change')} so far
      </summary>
      <ol className="mt-2 max-h-40 space-y-1 overflow-y-auto">
        {edits.data.map((edit, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the list is only ever replaced whole
          <li key={i} className="break-words">
            <span className="font-semibold">{edit.by}</span>{' '}
            <span className="text-quiet">
              <RelativeTime iso={edit.at} />
            </span>{' '}
            {editWords(edit)}
            {edit.reason ? <span className="text-quiet"> ({edit.reason})</span> : null}
          </li>
        ))}
      </ol>
    </details>
  );
}
