import { defaultStringifySearch, linkOptions } from '@tanstack/react-router';
import type { SheetLink } from './api';

/** Where a number leads. One test, and one failure group, is shown itself; several as a list. */
export function placeOf(project: string, link: SheetLink) {
  const { of, filter } = link;
  const params = { project };
  if (of === 'test') {
    const one = filter.match(/^id eq (\d+)$/);
    if (one) {
      return linkOptions({ to: '/$project/tests', params, search: { test: Number(one[1]) } });
    }
  }
  if (of === 'group') {
    const one = filter.match(/^number eq (\d+)$/);
    return linkOptions({
      to: '/$project/triage',
      params,
      search: {
        show: 'all' as const,
        days: 0 as const,
        ...(one ? { group: Number(one[1]) } : { filter }),
      },
    });
  }
  return linkOptions({ to: '/$project/found', params, search: { of, filter } });
}

/** The address of that place. A board has hundreds of them: the router's own links take too long. */
export function addressOf(project: string, link: SheetLink): string {
  const { to, search } = placeOf(project, link);
  return to.replace('$project', encodeURIComponent(project)) + defaultStringifySearch(search);
}
