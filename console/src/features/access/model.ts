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

/** What a token can be good for. */
export const SCOPES = [
  ['send', 'send results, close runs'],
  ['read', 'see runs and tests'],
  ['edit', 'write notes, overrule outcomes'],
] as const;

/** What a person's own token can be good for beside them, where the person may it. */
export const OWN_SCOPES = [...SCOPES, ['tidy', 'delete, rename and move, as an owner']] as const;

/** After how many days a token ends. */
export const LIFETIMES: readonly (readonly [number | null, string])[] = [
  [null, 'never'],
  [7, 'in a week'],
  [90, 'in 90 days'],
  [365, 'in a year'],
];

const BROWSERS: readonly (readonly [RegExp, string])[] = [
  [/Edg\//, 'Edge'],
  [/Firefox\//, 'Firefox'],
  [/Chrom(?:e|ium)\//, 'Chromium'],
  [/Safari\//, 'Safari'],
];
const SYSTEMS: readonly (readonly [RegExp, string])[] = [
  [/Android/, 'Android'],
  [/iPhone|iPad/, 'iOS'],
  [/Windows/, 'Windows'],
  [/Mac OS X/, 'macOS'],
  [/Linux/, 'Linux'],
];

/** A browser as people call it, as far as its own word tells. */
export function agentWords(agent: string): string {
  const browser = BROWSERS.find(([pattern]) => pattern.test(agent))?.[1];
  const system = SYSTEMS.find(([pattern]) => pattern.test(agent))?.[1];
  if (browser) {
    return system ? `${browser} on ${system}` : browser;
  }
  return agent.slice(0, 40) || 'an unnamed program';
}
