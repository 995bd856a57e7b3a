/** The names under which what belongs to triage is kept while it is shown. */
export const triageKeys = {
  categories: (project: string) => ['categories', project] as const,
  code: (project: string) => ['code', project] as const,
  tracker: (project: string) => ['tracker', project] as const,
  /** Entries of the tracker that are like a group. */
  alike: (project: string, group: number, text: string) => ['alike', project, group, text] as const,
  rules: (project: string) => ['rules', project] as const,
  /** Groups and what is decided of them, of all runs. */
  groups: (project: string) => ['groups', project] as const,
  /** Over all runs. */
  desk: (project: string, show: string, days: number | undefined) =>
    ['groups', project, 'desk', show, days] as const,
  group: (project: string, group: number) => ['groups', project, 'one', group] as const,
  /** Once all is grouped it is asked for again: the last answer may have come just before. */
  groupsInRun: (project: string, run: { id: number; version: number; explained: boolean }) =>
    ['groups', project, run.id, run.version, run.explained] as const,
};
