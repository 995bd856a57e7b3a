import { useQuery } from '@tanstack/react-query';
import { projectsQuery } from './api';

/** Who may write notes and overrule outcomes; the portal asks again. */
const EDITORS: readonly (string | null)[] = ['contributor', 'owner'];

/** Whether who is signed in may edit in the project; false until it is known. */
export function useMayEdit(project: string): boolean {
  const projects = useQuery(projectsQuery);
  return EDITORS.includes(projects.data?.find((one) => one.key === project)?.role ?? null);
}

/** Whether who is signed in owns the project; false until it is known. */
export function useOwns(project: string | undefined): boolean {
  const projects = useQuery(projectsQuery);
  return projects.data?.find((one) => one.key === project)?.role === 'owner';
}
