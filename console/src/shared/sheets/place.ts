import { linkOptions } from '@tanstack/react-router';
import type { SheetLink } from './api';

/** Where a number leads. One test, and one failure group, is shown itself; several as a list. */
export function placeOf(project: string, link: SheetLink) {
  const { of, filter } = link;
  const params = { project };
  if (of === 'test') {
    const one = filter.match(/^id eq (\d+)$/);
    return linkOptions({
      to: '/$project/tests',
      params,
      search: one ? { test: Number(one[1]) } : { show: 'newest' as const, filter },
    });
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
