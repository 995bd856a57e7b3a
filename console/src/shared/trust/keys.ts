/** What is known of tests. */
export const trustKeys = {
  all: (project: string) => ['trust', project] as const,
};
