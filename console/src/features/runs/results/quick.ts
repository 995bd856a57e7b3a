import { joinTerms, quote, splitTerms } from '../../../shared/filter/terms';
import { isOutcome, type Outcome } from '../../../shared/ui/OutcomeGlyph';

/** What the quick filters of a run say of its results; they are terms of its filter. */
export interface Quick {
  outcomes: Outcome[];
  change: string | undefined;
  text: string;
  setUps: boolean;
  overruled: boolean;
  /** Terms that no quick filter says. */
  rest: string[];
}

const NO_QUICK: Quick = {
  outcomes: [],
  change: undefined,
  text: '',
  setUps: false,
  overruled: false,
  rest: [],
};

/** Finds the quick filters again in a filter, whoever wrote it. */
export function readQuick(filter: string): Quick {
  const quick: Quick = { ...NO_QUICK, rest: [] };
  for (const term of splitTerms(filter)) {
    const outcomes = readOutcomes(term);
    const change = /^change eq "([a-z ]+)"$/i.exec(term)?.[1];
    const text = readText(term);
    if (outcomes && quick.outcomes.length === 0) quick.outcomes = outcomes;
    else if (change && quick.change === undefined) quick.change = change;
    else if (text && quick.text === '') quick.text = text;
    else if (/^setUp eq true$/i.test(term)) quick.setUps = true;
    else if (/^overruled eq true$/i.test(term)) quick.overruled = true;
    else quick.rest.push(term);
  }
  return quick;
}

function readOutcomes(term: string): Outcome[] | undefined {
  const bare = term.replace(/^\((.*)\)$/, '$1');
  const words = bare.split(/ or /i).map((one) => /^outcome eq "([a-z ]+)"$/i.exec(one)?.[1]);
  return words.every((word): word is Outcome => word !== undefined && isOutcome(word))
    ? words
    : undefined;
}

function readText(term: string): string | undefined {
  const text = /^text co (".*")$/i.exec(term)?.[1];
  try {
    const read: unknown = text === undefined ? undefined : JSON.parse(text);
    return typeof read === 'string' && read !== '' ? read : undefined;
  } catch {
    return undefined;
  }
}

/** The same filter with some of its quick filters set anew. */
export function narrow(filter: string, next: Partial<Quick>): string {
  const quick = { ...readQuick(filter), ...next };
  const outcomes = quick.outcomes.map((one) => `outcome eq ${quote(one)}`).join(' or ');
  return joinTerms([
    ...(quick.outcomes.length > 1 ? [`(${outcomes})`] : outcomes ? [outcomes] : []),
    ...(quick.setUps ? ['setUp eq true'] : []),
    ...(quick.change ? [`change eq ${quote(quick.change)}`] : []),
    ...(quick.overruled ? ['overruled eq true'] : []),
    ...(quick.text ? [`text co ${quote(quick.text)}`] : []),
    ...quick.rest,
  ]);
}
