import { queryOptions } from '@tanstack/react-query';
import { api, done, type Schemas, unwrap } from '../../../shared/api/client';
import { triageKeys } from '../../../shared/triage/keys';

export type Tracker = Schemas['Tracker'];

/** How a tracker is spoken to, as it is written; the states one in a line. */
export interface Settings {
  name: string;
  find: string;
  read: string;
  page: string;
  create: string;
  createBody: string;
  comment: string;
  commentBody: string;
  header: string;
  listAt: string;
  entryAt: string;
  keyAt: string;
  titleAt: string;
  textAt: string;
  stateAt: string;
  closedAtAt: string;
  closed: string;
}

const NOTHING: Settings = {
  name: '',
  find: '',
  read: '',
  page: '',
  create: '',
  createBody: '',
  comment: '',
  commentBody: '',
  header: '',
  listAt: '',
  entryAt: '',
  keyAt: '',
  titleAt: '',
  textAt: '',
  stateAt: '',
  closedAtAt: '',
  closed: '',
};

/** As they are kept. */
export function settingsOf(tracker: Tracker): Settings {
  const kept = tracker.settings;
  const settings = { ...NOTHING };
  if (kept) {
    for (const name of Object.keys(NOTHING) as (keyof Settings)[]) {
      settings[name] = name === 'closed' ? (kept.closed ?? []).join('\n') : (kept[name] ?? '');
    }
  }
  return settings;
}

function body(settings: Settings) {
  const closed = settings.closed
    .split('\n')
    .map((one) => one.trim())
    .filter((one) => one !== '');
  return { ...settings, closed };
}

export function trackerQuery(project: string) {
  return queryOptions({
    queryKey: triageKeys.tracker(project),
    queryFn: () =>
      unwrap(api.GET('/api/v1/projects/{project}/tracker', { params: { path: { project } } })),
  });
}

/** @param secret empty for the one that is kept */
export function keepTracker(project: string, version: number, settings: Settings, secret: string) {
  return unwrap(
    api.PUT('/api/v1/projects/{project}/tracker', {
      params: { path: { project } },
      body: { version, secret: secret === '' ? null : secret, settings: body(settings) },
    }),
  );
}

export function removeTracker(project: string): Promise<void> {
  return done(api.DELETE('/api/v1/projects/{project}/tracker', { params: { path: { project } } }));
}

/** What it finds by settings that are not kept. */
export function tryTracker(project: string, settings: Settings, secret: string, text: string) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/tracker/trial', {
      params: { path: { project } },
      body: { secret: secret === '' ? null : secret, settings: body(settings), text },
    }),
  );
}
