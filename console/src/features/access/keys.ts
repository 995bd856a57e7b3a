/** The names under which people, tokens and sessions are kept while they are shown. */
export const accessKeys = {
  people: ['people'] as const,
  invitations: ['invitations'] as const,
  invitation: (secret: string) => ['invitation', secret] as const,
  members: (project: string) => ['members', project] as const,
  tokens: (project: string) => ['tokens', project] as const,
  ownTokens: ['own tokens'] as const,
  sessions: ['sessions'] as const,
};
