import { useQuery } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { useEffect, useRef, useState } from 'react';
import { KeyedList } from '../../../shared/layout/KeyedList';
import { SplitPage } from '../../../shared/layout/SplitPage';
import { plural } from '../../../shared/lib/format';
import { useRunNews } from '../../../shared/runs/news';
import { categoriesQuery, type Desk, deskQuery, type Group } from '../../../shared/triage/api';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { GroupPanel } from '../group/GroupPanel';
import { cleaned, type DeskSearch, shownOf, spanOf, toggled } from '../model';
import { DeskFilter } from './DeskFilter';
import { DeskHead } from './DeskHead';
import { DeskRow } from './DeskRow';
import { MarkBar } from './MarkBar';

const ROW = 88;

/** The failure groups of all runs: what needs a person first, the chosen one beside it. */
export function TriagePage({ project, search }: { project: string; search: DeskSearch }) {
  useRunNews(project);
  const navigate = useNavigate();
  const show = shownOf(search);
  const span = spanOf(search);
  const desk = useQuery(deskQuery(project, show, span === 0 ? undefined : span, search.filter));
  const categories = useQuery(categoriesQuery(project));
  // At once, and the address follows: a key pressed now must not hit the one before.
  const [picked, setPicked] = useState(search.group);
  // What was looked at first stays, too: news that sort the list anew must not change it.
  const first = desk.isPlaceholderData ? undefined : desk.data?.groups[0]?.group;
  useEffect(() => {
    if (picked === undefined && first !== undefined) {
      setPicked(first);
    }
  }, [picked, first]);
  const now = useRef<number>(undefined);
  const [marks, setMarks] = useState<readonly number[]>([]);
  const mark = (group: number) => setMarks((before) => toggled(before, group));
  const change = (next: Partial<DeskSearch>) => {
    if ('group' in next) {
      setPicked(next.group);
    }
    void navigate({
      to: '/$project/triage',
      params: { project },
      search: cleaned({ ...search, ...next }),
      replace: true,
    });
  };
  if (desk.isPending) {
    return <Loading lines={10} />;
  }
  if (desk.error) {
    return (
      <main className="grow">
        {search.filter === undefined ? null : (
          <div className="max-w-3xl px-5 pt-4">
            <DeskFilter project={project} filter={search.filter} onChange={change} />
          </div>
        )}
        <Failed error={desk.error} retry={() => desk.refetch()} />
      </main>
    );
  }
  const { groups, sums } = desk.data;
  const chosen = picked ?? groups[0]?.group;
  now.current = chosen;
  const select = (group: Group) => change({ group: group.group });
  const next = nextOpen(groups, chosen);
  // What left the list is not decided by the way.
  const marked = groups.filter((one) => marks.includes(one.group));
  return (
    <SplitPage
      head={
        <DeskHead
          project={project}
          show={show}
          span={span}
          sums={sums}
          filter={search.filter}
          onChange={(next) => change(next)}
        />
      }
    >
      <section
        aria-label="Failure groups"
        className="flex min-h-0 flex-col border-base-300 max-[899px]:h-[45vh] max-[899px]:shrink-0 max-[899px]:border-b min-[900px]:border-r"
      >
        {groups.length === 0 ? (
          <NothingLeft
            show={show}
            filtered={search.filter !== undefined}
            sums={sums}
            onAll={() => change({ days: 0 })}
          />
        ) : (
          <KeyedList
            label="List of failure groups"
            rows={groups}
            rowHeight={ROW}
            keyOf={(row) => String(row.group)}
            selected={String(chosen)}
            onSelect={select}
            onKey={(key) => (key === 'n' ? nextOpen(groups, chosen) : undefined)}
            onMore={undefined}
          >
            {(row, selected) => (
              <button
                type="button"
                aria-current={selected}
                onClick={(e) => (e.ctrlKey || e.metaKey ? mark(row.group) : select(row))}
                className={`block h-full w-full border-l-[3px] px-4 py-2 text-left ${
                  selected
                    ? 'border-primary bg-base-200'
                    : 'border-transparent hover:bg-base-200/60'
                }`}
              >
                <DeskRow
                  group={row}
                  categories={categories.data}
                  marked={marks.includes(row.group)}
                />
              </button>
            )}
          </KeyedList>
        )}
        <MarkBar
          project={project}
          marked={marked}
          chosen={chosen}
          onMark={mark}
          onClear={() => setMarks([])}
          onJoined={(group) => {
            setMarks([]);
            change({ group });
          }}
        />
      </section>
      {chosen === undefined ? (
        <Empty title="Nothing chosen">A failure group is shown here, with all that is known.</Empty>
      ) : (
        <GroupPanel
          key={chosen}
          project={project}
          id={chosen}
          known={groups.find((one) => one.group === chosen)}
          knownAt={desk.dataUpdatedAt}
          categories={categories.data}
          marked={marked}
          onMark={() => mark(chosen)}
          onGroup={(group) => change({ group })}
          onNext={
            next === undefined ? undefined : () => change({ group: groups[next]?.group ?? chosen })
          }
          // It stays chosen when it leaves the list: a second press must not hit another one.
          onDecided={() => {
            // One that was decided is looked at then: a second press must not hit another one.
            const stays = marked.find((one) => one.group === chosen) ?? marked[0];
            setMarks([]);
            // Whoever has gone on to another one meanwhile is not brought back.
            if (now.current === chosen) {
              change({ group: stays?.group ?? chosen });
            }
          }}
        />
      )}
    </SplitPage>
  );
}

/** The next one below that nobody explained; from the top after the last. */
function nextOpen(groups: Group[], chosen: number | undefined): number | undefined {
  const at = groups.findIndex((one) => one.group === chosen);
  const below = groups.findIndex((one, i) => i > at && one.open > 0);
  const next = below < 0 ? groups.findIndex((one) => one.open > 0) : below;
  return next < 0 ? undefined : next;
}

function NothingLeft(props: {
  show: string;
  filtered: boolean;
  sums: Desk['sums'];
  onAll: () => void;
}) {
  const { older, grouping } = props.sums;
  if (props.filtered) {
    return <Empty title="None">No group of this list fits the filter.</Empty>;
  }
  if (props.show !== 'unsorted') {
    return <Empty title="None">There is no such group in this time.</Empty>;
  }
  if (grouping > 0) {
    return (
      <Empty title="Being read">
        {plural(grouping, 'run is', 'runs are')} still being grouped; what fails there is shown
        here.
      </Empty>
    );
  }
  return (
    <Empty title="Everything is explained">
      {older > 0 ? (
        <p>
          In this time, that is.{' '}
          <button type="button" className="link" onClick={props.onAll}>
            {older === 1 ? 'One group' : `${older} groups`} of before
          </button>{' '}
          nobody explained.
        </p>
      ) : (
        'No failure waits for a person.'
      )}
    </Empty>
  );
}
