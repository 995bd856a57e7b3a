import { plural } from '../../../shared/lib/format';
import type { Moment } from '../api';

/** So many runs one after another are told by themselves. */
const LONG = 3;

/** Short stretches with nothing between them, told together. */
export type Fold = { failed: number; retried: number; latest: Moment; first: Moment };

function isShort(one: Moment): boolean {
  return (one.kind === 'failed' || one.kind === 'retried') && (one.runs ?? 0) < LONG;
}

/** The moments, the latest first, with those folded that would hide the others. */
export function folded(moments: Moment[]): (Moment | Fold)[] {
  const all: (Moment | Fold)[] = [];
  let short: Moment[] = [];
  const close = () => {
    const [latest, second] = short;
    if (latest !== undefined && second !== undefined) {
      const count = (kind: string) =>
        short.filter((one) => one.kind === kind).reduce((sum, one) => sum + (one.runs ?? 0), 0);
      all.push({
        failed: count('failed'),
        retried: count('retried'),
        latest,
        first: short[short.length - 1] ?? latest,
      });
    } else if (latest !== undefined) {
      all.push(latest);
    }
    short = [];
  };
  for (const one of moments) {
    if (isShort(one)) {
      short.push(one);
    } else {
      close();
      all.push(one);
    }
  }
  close();
  return all;
}

/** A fold in words. */
export function toldFold(fold: Fold): string {
  const parts = [
    ...(fold.failed > 0 ? [`failed in ${plural(fold.failed, 'run')}`] : []),
    ...(fold.retried > 0
      ? [
          `passed only when tried again in ${fold.failed > 0 ? fold.retried : plural(fold.retried, 'run')}`,
        ]
      : []),
  ];
  return `Now and then ${parts.join(' and ')}, from`;
}

/** A moment in words: what comes before the run that it is about, and what comes behind. */
export type Told = { before: string; behind: string; quote: string | null };

const FIELDS: Record<string, string> = { description: 'the description', tags: 'the tags' };

/** What happened, or what was said. */
export function told(moment: Moment): Told {
  const by = moment.by ?? 'Nobody';
  const quote = moment.why;
  switch (moment.kind) {
    case 'came':
      return { before: 'Came with', behind: '', quote };
    case 'failed':
      return { before: stretch('Failed', moment), behind: '', quote };
    case 'retried':
      return { before: stretch('Passed only when tried again', moment), behind: '', quote };
    case 'taken':
      return { before: `Taken for ${moment.what} since`, behind: '', quote };
    case 'renamed':
      return {
        before:
          moment.by === null
            ? `Called “${moment.after}”, before “${moment.before}”, since`
            : `${by} said that “${moment.before}” goes on as “${moment.after}”`,
        behind: '',
        quote,
      };
    case 'kept apart':
      return { before: `${by} said that “${moment.before}” is another test`, behind: '', quote };
    case 'explained':
      return { before: `${by}: ${moment.what}`, behind: '', quote };
    case 'taken back':
      return { before: `${by} took back: ${moment.what}`, behind: '', quote };
    case 'no longer':
      return { before: `No longer explained: ${moment.what}`, behind: '', quote };
    case 'noted':
      return { before: `${by} ${changed(moment)}`, behind: '', quote: quote ?? moment.after };
    case 'overruled':
      return {
        before: `${by} overruled ${moment.before} as ${moment.after} in`,
        behind: '',
        quote,
      };
    case 'quarantined':
      return {
        before: `${by} put it in quarantine ${moment.before === null ? 'everywhere' : `in ${moment.before}`}`,
        behind: `until ${moment.after}; ${moment.what} has it`,
        quote,
      };
    case 'released':
      return {
        before: `${by} took it out of quarantine ${moment.before === null ? 'everywhere' : `in ${moment.before}`}`,
        behind: '',
        quote,
      };
  }
}

function stretch(what: string, moment: Moment): string {
  const runs = moment.runs ?? 1;
  const ends = moment.goesOn ? ', up to the latest' : '';
  return runs === 1 ? `${what} in` : `${what} in ${plural(runs, 'run')}${ends}, from`;
}

function changed(moment: Moment): string {
  const field = FIELDS[moment.what ?? ''] ?? moment.what ?? 'it';
  if (moment.after === null) {
    return `took away ${field}`;
  }
  return moment.before === null ? `wrote ${field}` : `changed ${field}`;
}
