import { api, done, unwrap } from '../../../shared/api/client';
import type { Category } from '../../../shared/triage/api';

/** What is said of a category. */
export type CategoryDraft = Omit<Category, 'id'>;

export function addCategory(project: string, draft: CategoryDraft) {
  return unwrap(
    api.POST('/api/v1/projects/{project}/categories', {
      params: { path: { project } },
      body: draft,
    }),
  );
}

export function changeCategory(project: string, category: number, draft: CategoryDraft) {
  return unwrap(
    api.PUT('/api/v1/projects/{project}/categories/{category}', {
      params: { path: { project, category } },
      body: draft,
    }),
  );
}

export function orderCategories(project: string, categories: number[]): Promise<void> {
  return done(
    api.PUT('/api/v1/projects/{project}/categories/order', {
      params: { path: { project } },
      body: { categories },
    }),
  );
}
