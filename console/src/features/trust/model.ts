/** Which tests are listed. */
export const SHOWS = ['flaky', 'broken', 'unsure', 'renamed'] as const;

export type Show = (typeof SHOWS)[number];

/** What the address of the tests says. */
export interface TestsSearch {
  show?: Show | undefined;
  stream?: string | undefined;
  test?: number | undefined;
  /** The stream in which the test is looked at. */
  in?: string | undefined;
  branch?: string | undefined;
}

export function readTestsSearch(search: { [key: string]: unknown } | TestsSearch): TestsSearch {
  const read: TestsSearch = {};
  const show = SHOWS.find((one) => one === search.show);
  if (show) read.show = show;
  for (const key of ['stream', 'in', 'branch'] as const) {
    const value = search[key];
    if (typeof value === 'string' && value !== '') read[key] = value;
  }
  if (Number.isInteger(search.test) && Number(search.test) > 0) {
    read.test = Number(search.test);
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
export function cleaned(search: TestsSearch): TestsSearch {
  return Object.fromEntries(
    Object.entries(search).filter(([, value]) => value !== undefined && value !== ''),
  );
}

/** By what a stretch is slower or faster than the one before; null for the first. */
export function factors(stretches: { medianMs: number }[]): (number | null)[] {
  return stretches.map((one, at) => {
    const before = stretches[at - 1];
    return before === undefined || before.medianMs === 0 ? null : one.medianMs / before.medianMs;
  });
}
