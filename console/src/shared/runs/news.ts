import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { triageKeys } from '../triage/keys';
import { trustKeys } from '../trust/keys';
import { runKeys, runsChanged } from './keys';

/** News in quick succession are answered together, after so long. */
const TOGETHER_MS = 400;

/** Looks again at what is shown when the portal says that a run, or a decision, has changed. */
export function useRunNews(project: string, run?: number): void {
  const queries = useQueryClient();
  useEffect(() => {
    const news = new EventSource(`/api/v1/projects/${project}/news`);
    let waiting: ReturnType<typeof setTimeout> | undefined;
    let decided = false;
    const look = () => {
      waiting = undefined;
      void runsChanged(queries, project);
      void queries.invalidateQueries({ queryKey: triageKeys.groups(project) });
      void queries.invalidateQueries({ queryKey: triageKeys.rules(project) });
      void queries.invalidateQueries({ queryKey: trustKeys.all(project) });
      if (decided) {
        decided = false;
        void queries.invalidateQueries({ queryKey: runKeys.results(project) });
      }
    };
    news.addEventListener('group', () => {
      decided = true;
      waiting ??= setTimeout(look, TOGETHER_MS);
    });
    news.addEventListener('run', (event) => {
      const changed = Number(event.data);
      if (run === undefined || changed === run || changed === 0) {
        waiting ??= setTimeout(look, TOGETHER_MS);
      }
    });
    return () => {
      clearTimeout(waiting);
      news.close();
    };
  }, [project, run, queries]);
}
