import { type QueryClient, queryOptions } from '@tanstack/react-query';
import { api, done, unwrap } from '../../shared/api/client';
import type { Sheet } from '../../shared/sheets/api';
import { fetchChart } from '../../shared/sheets/LateChart';
import { sheetsAhead } from './ahead';
import { isChart } from './model';
import { sheetOf } from './together';
import type { Board, Panel, Switch } from './types';

export const boardKeys = {
  all: (project: string) => ['boards', project] as const,
  one: (project: string, board: number) => ['boards', project, board] as const,
};

export function boardsQuery(project: string) {
  return queryOptions({
    queryKey: [...boardKeys.all(project), 'list'],
    queryFn: () =>
      unwrap(api.GET('/api/v1/projects/{project}/boards', { params: { path: { project } } })),
  });
}

export function readyQuery(project: string) {
  return queryOptions({
    queryKey: ['ready boards', project],
    queryFn: () =>
      unwrap(api.GET('/api/v1/projects/{project}/boards/ready', { params: { path: { project } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

function askBoard(project: string, board: number): Promise<Board> {
  return unwrap(
    api.GET('/api/v1/projects/{project}/boards/{board}', {
      params: { path: { project, board } },
    }),
  );
}

export function boardQuery(project: string, board: number) {
  return queryOptions({
    queryKey: boardKeys.one(project, board),
    queryFn: () => askBoard(project, board),
  });
}

/** Of another project nobody tells that a run has changed. */
const LOOK_AGAIN_MS = 60_000;

/** What a panel shows; asked for again when a run has changed. */
export function sheetQuery(project: string, panel: Panel, board: Switch) {
  // Where it stands and what it is called changes nothing of what it shows.
  const { kind, filter, days, step, by, minimum, project: of } = panel;
  return queryOptions({
    queryKey: ['runs', project, 'sheet', { kind, filter, days, step, by, minimum, of }, board],
    refetchInterval: of === null ? (false as const) : LOOK_AGAIN_MS,
    queryFn: () => sheetOf(project, panel, board),
    placeholderData: (before: Sheet | undefined) => before,
  });
}

/** So long a board waits for what its panels show: laid out twice, it is there later. */
const TOGETHER_MS = 250;

/**
 * A board, with what its panels show on the way: where nothing is known of it yet, along with it,
 * so that both can be shown at once; what takes longer is shown as it comes.
 */
export function boardInFull(client: QueryClient, project: string, board: number, shown: Switch) {
  const plain = boardQuery(project, board);
  return queryOptions({
    ...plain,
    queryFn: async () => {
      const known = client.getQueryData(plain.queryKey) !== undefined;
      // The board first: while its sheets are made, its panels are laid out.
      const coming = askBoard(project, board);
      const ahead = known ? undefined : sheetsAhead(project, board, shown);
      const asked = await coming;
      const sheets = asked.panels
        .filter((panel) => panel.kind !== 'text')
        .map((panel) => {
          const sheet = sheetQuery(project, panel, shown);
          return client.prefetchQuery(
            ahead ? { ...sheet, queryFn: () => ahead.of(asked, panel) } : sheet,
          );
        });
      const drawing = asked.panels.some((panel) => isChart(panel.kind))
        ? fetchChart().catch(() => undefined)
        : undefined;
      if (ahead) {
        const late = new Promise((over) => setTimeout(over, TOGETHER_MS));
        await Promise.race([Promise.all([...sheets, drawing]), late]);
      }
      return asked;
    },
  });
}

/** The same, begun before the page is there that shows it. */
export function boardAhead(client: QueryClient, project: string, board: number, shown: Switch) {
  const inFull = boardInFull(client, project, board, shown);
  if (client.getQueryData(inFull.queryKey) === undefined) {
    void client.prefetchQuery(inFull);
  }
}

export function addReady(project: string, ready: string, name: string, stream: string | null) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/boards/ready', {
      params: { path: { project } },
      body: { ready, name, stream },
    }),
  );
}

export function addBoard(project: string, name: string, panels: Panel[]) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/boards', {
      params: { path: { project } },
      body: { name, panels },
    }),
  );
}

export function changeBoard(project: string, board: Board, name: string, panels: Panel[]) {
  return unwrap(
    api.PUT('/api/v1/projects/{project}/boards/{board}', {
      params: { path: { project, board: board.id } },
      body: { version: board.version, board: { name, panels } },
    }),
  );
}

/** Where a panel's numbers are as a file; panels are counted from 1. */
export function fileAddress(
  project: string,
  board: number,
  panel: number,
  form: 'csv' | 'xlsx' | 'md',
  { days, filter }: Switch,
): string {
  const query = new URLSearchParams();
  if (days !== undefined) query.set('days', String(days));
  if (filter !== undefined) query.set('filter', filter);
  const words = query.size > 0 ? `?${query}` : '';
  return `/api/v1/projects/${encodeURIComponent(project)}/boards/${board}/panels/${panel}/table.${form}${words}`;
}

export function linksQuery(project: string, board: number) {
  return queryOptions({
    queryKey: [...boardKeys.one(project, board), 'links'],
    queryFn: () =>
      unwrap(
        api.GET('/api/v1/projects/{project}/boards/{board}/links', {
          params: { path: { project, board } },
        }),
      ),
  });
}

export function addLink(project: string, board: number, days: number) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/boards/{board}/links', {
      params: { path: { project, board } },
      body: { days },
    }),
  );
}

export function removeLink(project: string, board: number, link: number): Promise<void> {
  return done(
    api.DELETE('/api/v1/projects/{project}/boards/{board}/links/{link}', {
      params: { path: { project, board, link } },
    }),
  );
}

/** A board by its link, for whoever holds that. */
export function sharedBoardQuery(secret: string) {
  return queryOptions({
    queryKey: ['shared board', secret],
    queryFn: () =>
      unwrap(api.POST('/api/v1/shared/board', { body: { secret, panel: null, version: null } })),
    refetchInterval: LOOK_AGAIN_MS,
  });
}

/** What its panel shows; panels are counted from 1. */
export function sharedSheetQuery(secret: string, version: number, place: number) {
  return queryOptions({
    queryKey: ['shared board', secret, version, place],
    queryFn: () =>
      unwrap(api.POST('/api/v1/shared/sheet', { body: { secret, panel: place, version } })),
    refetchInterval: LOOK_AGAIN_MS,
  });
}

export function removeBoard(project: string, board: number): Promise<void> {
  return done(
    api.DELETE('/api/v1/projects/{project}/boards/{board}', {
      params: { path: { project, board } },
    }),
  );
}
