/** Which tests are listed. */
export const SHOWS = ['flaky', 'quarantine', 'broken', 'slowing', 'renamed'] as const;

/** Those that are asked for less often. */
export const MORE_SHOWS = [
  'costly',
  'failing',
  'slowest',
  'newest',
  'missing',
  'steady',
  'unsure',
  'made-up',
] as const;

export type Show = (typeof SHOWS)[number] | (typeof MORE_SHOWS)[number];

/** What the address of the tests says. */
export interface TestsSearch {
  show?: Show | undefined;
  stream?: string | undefined;
  /** Of tests, in the lists by figures. */
  filter?: string | undefined;
  test?: number | undefined;
  /** The stream in which the test is looked at. */
  in?: string | undefined;
  branch?: string | undefined;
  /** What it did is shown by stream and branch. */
  apart?: boolean | undefined;
}

export function readTestsSearch(search: { [key: string]: unknown } | TestsSearch): TestsSearch {
  const read: TestsSearch = {};
  const show = [...SHOWS, ...MORE_SHOWS].find((one) => one === search.show);
  if (show) read.show = show;
  for (const key of ['stream', 'in', 'branch', 'filter'] as const) {
    const value = search[key];
    if (typeof value === 'string' && value !== '') read[key] = value;
  }
  if (Number.isInteger(search.test) && Number(search.test) > 0) {
    read.test = Number(search.test);
  }
  if (search.apart === true) read.apart = true;
  return read;
}

/** What the address of the grid says. */
export interface GridSearch {
  stream?: string | undefined;
  filter?: string | undefined;
  /** The number of the run of which failing tests are shown. */
  run?: number | undefined;
}

export function readGridSearch(search: { [key: string]: unknown } | GridSearch): GridSearch {
  const read: GridSearch = {};
  for (const key of ['stream', 'filter'] as const) {
    const value = search[key];
    if (typeof value === 'string' && value !== '') read[key] = value;
  }
  if (Number.isInteger(search.run) && Number(search.run) > 0) {
    read.run = Number(search.run);
  }
  return read;
}

/** As in “3.2 %”; what is so small that nobody sees it is “below 0.1 %”. */
export function percent(share: number): string {
  const value = share * 100;
  if (value > 0 && value < 0.1) {
    return 'below 0.1 %';
  }
  return value < 10 ? `${value.toFixed(1)} %` : `${Math.round(value)} %`;
}

/** As in “21 % to 44 %”. */
export function interval(low: number, high: number): string {
  return `${percent(low)} to ${percent(high)}`;
}

/** What stays as it is leaves the address short. */
export function cleaned<T extends TestsSearch | GridSearch>(search: T): Partial<T> {
  return Object.fromEntries(
    Object.entries(search).filter(([, value]) => value !== undefined && value !== ''),
  ) as Partial<T>;
}

/** By what a stretch is slower or faster than the one before; null for the first. */
export function factors(stretches: { medianMs: number }[]): (number | null)[] {
  return stretches.map((one, at) => {
    const before = stretches[at - 1];
    return before === undefined || before.medianMs === 0 ? null : one.medianMs / before.medianMs;
  });
}

/** A day some days on, as the portal writes it, in UTC. */
export function dayIn(days: number, now: Date): string {
  return new Date(now.getTime() + days * 86_400_000).toISOString().slice(0, 10);
}
