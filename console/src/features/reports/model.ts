export const KINDS = [
  ['summary', 'What ran'],
  ['tests', 'Test by test'],
  ['breakdown', 'Side by side'],
  ['people', 'Who did what'],
] as const;

export type Kind = (typeof KINDS)[number][0];

/** What the address of a report says. */
export interface ReportSearch {
  kind?: Kind | undefined;
  /** So many latest days; 30 when nothing is said. */
  days?: number | undefined;
  /** In place of them: from this day on, and until that one. */
  from?: string | undefined;
  to?: string | undefined;
  /** Of runs. */
  filter?: string | undefined;
  /** What runs are told apart by, with commas between. */
  by?: string | undefined;
}

const MOST_DAYS = 7320;
const DAY = /^\d{4}-\d{2}-\d{2}$/;

export function readReportSearch(search: { [key: string]: unknown } | ReportSearch): ReportSearch {
  const days = Number(search.days);
  const kind = KINDS.find(([one]) => one === search.kind)?.[0];
  const from = day(search.from);
  const to = day(search.to);
  return {
    ...(kind && kind !== 'summary' ? { kind } : {}),
    ...(from !== undefined
      ? { from, ...(to !== undefined ? { to } : {}) }
      : Number.isInteger(days) && days >= 1 && days <= MOST_DAYS
        ? { days }
        : {}),
    ...(typeof search.filter === 'string' && search.filter !== '' ? { filter: search.filter } : {}),
    ...(typeof search.by === 'string' && search.by !== '' ? { by: search.by } : {}),
  };
}

function day(value: unknown): string | undefined {
  return typeof value === 'string' && DAY.test(value) ? value : undefined;
}

/** The last day of so many, and the first. */
export function latest(days: number, now: Date): { from: string; to: string } {
  const first = new Date(now.getTime() - (days - 1) * 86_400_000);
  return { from: first.toISOString().slice(0, 10), to: now.toISOString().slice(0, 10) };
}
