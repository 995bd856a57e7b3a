/**
 * The terms of a filter that all have to hold. Where some of them are joined by “or”, the whole is
 * one term.
 */
export function splitTerms(filter: string): string[] {
  const terms: string[] = [];
  let depth = 0;
  let quoted = false;
  let from = 0;
  for (let i = 0; i < filter.length; i++) {
    const c = filter.charAt(i);
    if (quoted) {
      if (c === '\\') i++;
      else if (c === '"') quoted = false;
    } else if (c === '"') {
      quoted = true;
    } else if (c === '(' || c === '[') {
      depth++;
    } else if (c === ')' || c === ']') {
      depth--;
    } else if (depth === 0) {
      const link = /^(and|or)(?=[\s(])/i.exec(filter.slice(i))?.[0].toLowerCase();
      if (link && /[\s)\]"]/.test(filter.charAt(i - 1))) {
        if (link === 'or') return [`(${filter.trim()})`];
        terms.push(filter.slice(from, i).trim());
        from = i + link.length;
        i = from - 1;
      }
    }
  }
  terms.push(filter.slice(from).trim());
  return terms.filter((term) => term !== '');
}

/** One filter of terms that all have to hold. */
export function joinTerms(terms: string[]): string {
  const only = terms.length === 1 ? terms[0] : undefined;
  // Alone, the parentheses around an “or” say nothing.
  return only?.startsWith('(') && splitTerms(only.slice(1, -1))[0] === only
    ? only.slice(1, -1)
    : terms.join(' and ');
}

/** A text as a filter writes it. */
export function quote(text: string): string {
  return JSON.stringify(text);
}
