import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { count, plural } from '../../shared/lib/format';
import { streamsQuery } from '../../shared/runs/api';
import { useRunNews } from '../../shared/runs/news';
import { categoriesQuery, type Group } from '../../shared/triage/api';
import { RelativeTime } from '../../shared/ui/RelativeTime';
import { Failed, Loading } from '../../shared/ui/States';
import { lookQuery, type Today, todayQuery } from './api';
import { GroupLines } from './GroupLines';
import { isQuiet, rowsOf, some } from './model';
import { StreamLines } from './StreamLines';
import { FlakyLines, GoneLines, QuarantineLines, SlowerLines } from './TestLines';

/** What needs who looks, since they last looked: causes first, then streams. */
export function TodayPage({ project }: { project: string }) {
  useRunNews(project);
  const look = useQuery(lookQuery(project));
  const today = useQuery(todayQuery(project, look.data?.since));
  const streams = useQuery(streamsQuery(project));
  const categories = useQuery(categoriesQuery(project));
  const error = look.error ?? today.error ?? streams.error;
  if (error) {
    return (
      <Failed
        page
        error={error}
        retry={() => {
          void look.refetch();
          void today.refetch();
          void streams.refetch();
        }}
      />
    );
  }
  if (!today.data || !streams.data) {
    return <Loading lines={10} />;
  }
  const rows = rowsOf(streams.data, today.data.streams);
  const quiet = rows.filter(isQuiet).length;
  const sections = sectionsOf(today.data);
  return (
    <main className="min-h-0 grow overflow-y-auto">
      <div className="mx-auto max-w-5xl space-y-7 px-6 py-6">
        <header>
          <h1 className="font-serif text-3xl">Today</h1>
          <p className="mt-1 text-quiet" role="status">
            {sections.length === 0 && quiet === rows.length && testsOf(today.data) === 0
              ? 'Nothing needs you'
              : headline(today.data, rows.length - quiet)}
            {look.data?.since ? (
              <>
                , since you last looked <RelativeTime iso={look.data.since} />.
              </>
            ) : (
              '. You look for the first time: new is what came within a day.'
            )}
          </p>
        </header>
        {sections.map(({ title, show, groups, total }) => (
          <GroupLines
            key={title}
            project={project}
            title={title}
            show={show}
            groups={groups}
            total={total}
            categories={categories.data}
          />
        ))}
        {today.data.flaky.length > 0 ? (
          <FlakyLines project={project} flaky={today.data.flaky} />
        ) : null}
        {today.data.slower.length > 0 ? (
          <SlowerLines project={project} slower={today.data.slower} />
        ) : null}
        {today.data.gone.length > 0 ? <GoneLines project={project} gone={today.data.gone} /> : null}
        {today.data.quarantine.length > 0 ? (
          <QuarantineLines project={project} quarantine={today.data.quarantine} />
        ) : null}
        <section>
          <div className="flex items-baseline justify-between">
            <h2 className="font-serif text-xl">Streams</h2>
            <Link to="/$project/runs" params={{ project }} className="link text-sm">
              all runs
            </Link>
          </div>
          {rows.length === 0 ? (
            <p className="mt-2 text-quiet">
              No stream has a run yet.{' '}
              <Link to="/$project/connect" params={{ project }} className="link">
                Connect a pipeline
              </Link>
            </p>
          ) : (
            <StreamLines project={project} rows={rows} />
          )}
        </section>
      </div>
    </main>
  );
}

interface Section {
  title: string;
  show: 'unsorted' | 'returned' | 'mine';
  groups: Group[];
  total: number;
}

/** What returned is told once, though it may be new or somebody's, too. */
function sectionsOf(today: Today): Section[] {
  const told = new Set(today.returned.first.map((one) => one.group));
  const rest = (some: Today['fresh']) => ({
    groups: some.first.filter((one) => !told.has(one.group)),
    total: some.total,
  });
  const all: Section[] = [
    {
      title: 'Back after it was mended',
      show: 'returned',
      groups: today.returned.first,
      total: today.returned.total,
    },
    { title: 'New causes', show: 'unsorted', ...rest(today.fresh) },
    { title: 'Yours', show: 'mine', ...rest(today.mine) },
  ];
  return all.filter((one) => one.groups.length > 0);
}

/** How many tests need somebody. */
function testsOf(today: Today): number {
  return today.flaky.length + today.slower.length + today.gone.length + today.quarantine.length;
}

function headline(today: Today, streams: number): string {
  const words = [
    today.returned.total > 0 ? `${count(today.returned.total)} back` : '',
    today.fresh.total > 0 ? plural(today.fresh.total, 'new cause') : '',
    today.flaky.length > 0 ? `${some(today.flaky.length)} newly flaky` : '',
    today.slower.length > 0 ? `${some(today.slower.length)} newly slower` : '',
    today.gone.length > 0 ? `${some(today.gone.length)} vanished` : '',
    today.quarantine.length > 0 ? `${some(today.quarantine.length)} in quarantine to look at` : '',
    streams > 0 ? `${plural(streams, 'stream needs', 'streams need')} somebody` : '',
  ].filter((one) => one !== '');
  return words.length === 0 ? 'Nothing new' : words.join(', ');
}
