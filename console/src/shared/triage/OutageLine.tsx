import { Link } from '@tanstack/react-router';
import type { Schemas } from '../api/client';
import { count, plural } from '../lib/format';
import { GroupTitle } from './GroupTitle';

/** One cause that fails most of a run, in one line. */
export function OutageLine({ project, outage }: { project: string; outage: Schemas['Outage'] }) {
  return (
    <p className="min-w-0">
      <b className="font-semibold text-errored">Outage:</b>{' '}
      <Link
        to="/$project/triage"
        params={{ project }}
        search={{ group: outage.group, show: 'all', days: 0 }}
        className="link"
      >
        <GroupTitle group={outage} />
      </Link>{' '}
      <span className="text-quiet">
        fails {count(outage.results)} of {plural(outage.tests, 'test')}
      </span>
    </p>
  );
}
