export interface SignInSearch {
  to?: string;
}

/** Only addresses of our own: a link must not send people elsewhere after signing in. */
export function readSignInSearch(search: object): SignInSearch {
  const to = 'to' in search ? search.to : undefined;
  return typeof to === 'string' && /^\/(?![/\\])/.test(to) ? { to } : {};
}

/** A key from a name, as most would write it. */
export function suggestedKey(name: string): string {
  return name
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 64);
}
