import type { Edit, Note } from './api';

/** A note as a form holds it. */
export interface Draft {
  description: string;
  /** One key=value a line. */
  labels: string;
  /** Words with spaces between them. */
  tags: string;
}

export function draftOf(note: Note): Draft {
  return {
    description: note.description ?? '',
    labels: Object.entries(note.labels)
      .map(([key, value]) => `${key}=${value}`)
      .join('\n'),
    tags: note.tags.join(' '),
  };
}

/** The note that a draft stands for, or what is wrong with it. */
export function noteOf(draft: Draft): Note | string {
  const labels: Record<string, string> = {};
  for (const line of draft.labels.split('\n').map((l) => l.trim())) {
    if (line === '') continue;
    const at = line.indexOf('=');
    if (at < 1 || at === line.length - 1) {
      return `The label “${line}” is not of the form key=value.`;
    }
    const key = line.slice(0, at).trim();
    if (Object.hasOwn(labels, key)) {
      return `The label “${key}” is there twice.`;
    }
    labels[key] = line.slice(at + 1).trim();
  }
  return {
    description: draft.description.trim() || null,
    labels,
    tags: [...new Set(draft.tags.split(/[\s,]+/).filter((tag) => tag !== ''))],
  };
}

/** What an edit did, as in “label team: fares → moorings”. */
export function editWords(edit: Edit): string {
  if (edit.field === 'description') {
    if (edit.before === null) return 'wrote the description';
    return edit.after === null ? 'took the description away' : 'changed the description';
  }
  if (edit.field === 'outcome') {
    return `set the outcome of ${edit.resultName ?? edit.result}: ${edit.before} → ${edit.after}`;
  }
  return `${edit.field}: ${edit.before ?? 'none'} → ${edit.after ?? 'none'}`;
}
