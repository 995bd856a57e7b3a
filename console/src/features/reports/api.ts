import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, type Schemas, unwrap } from '../../shared/api/client';
import type { ReportSearch } from './model';

export type Report = Schemas['Report'];
export type Table = Schemas['ReportTable'];

/** So many rows of a table are shown; its files have all of them. */
const ROWS = 200;

/** What a report is asked for with; the days are those of UTC. */
export function asked(search: ReportSearch): Record<string, string> {
  const { from, to, days, filter, by } = search;
  return {
    ...(from !== undefined ? { from, ...(to !== undefined ? { to } : {}) } : {}),
    ...(from === undefined && days !== undefined ? { days: String(days) } : {}),
    ...(filter !== undefined ? { filter } : {}),
    ...(search.kind === 'breakdown' && by !== undefined ? { by } : {}),
  };
}

export function reportQuery(project: string, search: ReportSearch) {
  const kind = search.kind ?? 'summary';
  const query = asked(search);
  return queryOptions({
    queryKey: ['runs', project, 'report', kind, query],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/reports/{report}', {
          params: {
            path: { project, report: kind },
            query: { ...query, rows: ROWS } as never,
          },
        }),
      ),
    placeholderData: keepPreviousData,
    // It may look at every result there is.
    staleTime: 60_000,
  });
}

export function fileAddress(
  project: string,
  search: ReportSearch,
  form: string,
  table?: string,
): string {
  const words = new URLSearchParams({ ...asked(search), ...(table ? { table } : {}) });
  const at = `/api/v1/projects/${encodeURIComponent(project)}/reports/${search.kind ?? 'summary'}`;
  return `${at}/report.${form}${words.size > 0 ? `?${words}` : ''}`;
}

export async function shaped(
  project: string,
  search: ReportSearch,
  template: string,
  texts: string,
): Promise<string> {
  const text = await unwrap(
    api.POST('/api/v1/projects/{project}/reports/{report}/shaped', {
      params: {
        path: { project, report: search.kind ?? 'summary' },
        query: asked(search) as never,
      },
      body: { template, escape: texts },
      parseAs: 'text',
    }),
  );
  return String(text);
}
