/** The names under which who is here, and where they may go, is kept while it is shown. */
export const sessionKeys = {
  session: ['session'] as const,
  projects: ['projects'] as const,
};
