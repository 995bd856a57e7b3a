const RELATIVE = new Intl.RelativeTimeFormat('en', { numeric: 'auto' });
const EXACT = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'medium' });
const NUMBER = new Intl.NumberFormat('en');

const STEPS: [Intl.RelativeTimeFormatUnit, number][] = [
  ['year', 365 * 86_400],
  ['month', 30 * 86_400],
  ['week', 7 * 86_400],
  ['day', 86_400],
  ['hour', 3_600],
  ['minute', 60],
];

/** As in “3 hours ago”. */
export function relativeTime(iso: string, now: number): string {
  const seconds = (Date.parse(iso) - now) / 1000;
  for (const [unit, size] of STEPS) {
    if (Math.abs(seconds) >= size) {
      return RELATIVE.format(Math.round(seconds / size), unit);
    }
  }
  return 'just now';
}

export function exactTime(iso: string): string {
  return EXACT.format(new Date(iso));
}

export function count(n: number): string {
  return NUMBER.format(n);
}

export function plural(n: number, one: string, many = `${one}s`): string {
  return `${count(n)} ${n === 1 ? one : many}`;
}

/** As in “12 ms”, “3.4 s”, “2 min 05 s”, “1 h 10 min”. */
export function duration(ms: number): string {
  if (ms < 1) {
    return '< 1 ms';
  }
  if (ms < 1000) {
    return `${Math.round(ms)} ms`;
  }
  const seconds = ms / 1000;
  if (seconds < 60) {
    return `${seconds.toFixed(1)} s`;
  }
  const whole = Math.round(seconds);
  if (whole < 3600) {
    return `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, '0')} s`;
  }
  return `${Math.floor(whole / 3600)} h ${String(Math.floor((whole % 3600) / 60)).padStart(2, '0')} min`;
}

const SIZES: [string, number][] = [
  ['TB', 1e12],
  ['GB', 1e9],
  ['MB', 1e6],
  ['kB', 1e3],
];

/** As in “812 B”, “3.4 kB”, “12 MB”, “83 GB”. */
export function bytes(n: number): string {
  const [unit, size] = SIZES.find(([, least]) => n >= least) ?? ['B', 1];
  const value = n / size;
  return `${value < 10 && unit !== 'B' ? value.toFixed(1) : Math.round(value)} ${unit}`;
}
