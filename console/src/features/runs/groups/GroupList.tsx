import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { KeyedList } from '../../../shared/layout/KeyedList';
import { count, plural } from '../../../shared/lib/format';
import { useMayEdit } from '../../../shared/session/may';
import { categoriesQuery, type GroupInRun, groupsInRunQuery } from '../../../shared/triage/api';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import type { Run } from '../api';
import { isOf } from './byCategory';
import { CategoryChips } from './CategoryChips';
import { GroupRow } from './GroupRow';
import { RunDecideBar } from './RunDecideBar';

const ROW = 84;

/** The failure groups of a run: what nobody explained first, then the widest. */
export function GroupList(props: {
  project: string;
  run: Run;
  selected: number | undefined;
  onSelect: (group: GroupInRun) => void;
  onResults: (group: GroupInRun) => void;
  onFirst: (result: string | undefined) => void;
}) {
  const { project, run, onFirst } = props;
  const query = useQuery(groupsInRunQuery(project, run));
  const categories = useQuery(categoriesQuery(project));
  const mayEdit = useMayEdit(project);
  const [category, setCategory] = useState<string>();
  const all = query.data?.groups ?? [];
  const some = category === undefined ? all : all.filter((one) => isOf(one, category));
  // What was just decided may have left its category: then all are shown again.
  const groups = some.length > 0 ? some : all;
  // What was looked at first stays chosen while results and decisions of others sort the list anew.
  const [looked, setLooked] = useState<number>();
  // The address follows a little later: a key pressed meanwhile means what was just chosen.
  const { selected, onSelect } = props;
  const [picked, setPicked] = useState<number>();
  // Once the address says the same, it counts; one that was overtaken meanwhile does not.
  useEffect(() => setPicked((before) => (before === selected ? undefined : before)), [selected]);
  const select = (group: GroupInRun) => {
    setPicked(group.group === selected ? undefined : group.group);
    onSelect(group);
  };
  const wanted = picked ?? selected ?? looked;
  const chosen = groups.find((one) => one.group === wanted) ?? groups[0];
  const top = chosen?.group;
  useEffect(() => setLooked((before) => before ?? top), [top]);
  const first = chosen?.first;
  useEffect(() => onFirst(first), [first, onFirst]);

  if (query.isPending) {
    return <Loading lines={8} />;
  }
  if (query.error) {
    return <Failed error={query.error} retry={() => query.refetch()} />;
  }
  if (!chosen) {
    return run.explained ? (
      <Empty title="Nothing failed">There is no failure to explain in this run.</Empty>
    ) : (
      <Empty title="Being read">The failures of this run are being grouped.</Empty>
    );
  }
  const { open, results, total } = query.data;
  return (
    <>
      <p className="shrink-0 px-4 py-2 text-[13px]" role="status">
        <span className={open > 0 ? 'font-semibold' : ''}>
          {open > 0 ? `${count(open)} of ${plural(results, 'failure')} unsorted` : 'All explained'}
        </span>
        <span className="text-quiet">
          {open > 0 ? '' : `: ${plural(results, 'failure')}`} in {plural(total, 'group')}
          {total > all.length ? `, the first ${count(all.length)} shown` : ''}
          {run.explained ? '' : '; some are still being grouped'}
        </span>
        {query.data.notCompared > 0 ? (
          <span className="block text-errored">
            So many different errors:{' '}
            {plural(query.data.notCompared, 'failure was', 'failures were')} not compared by their
            words; causes may be more than one group.
          </span>
        ) : null}
      </p>
      <CategoryChips
        groups={all}
        categories={categories.data}
        chosen={some.length > 0 ? category : undefined}
        onChoose={setCategory}
      />
      <KeyedList
        label="List of failure groups"
        rows={groups}
        rowHeight={ROW}
        keyOf={(row) => String(row.group)}
        selected={String(chosen.group)}
        onSelect={select}
        onKey={(key) => (key === 'n' ? nextUnsorted(groups, chosen.group) : undefined)}
        onMore={undefined}
      >
        {(row, selected) => (
          <button
            type="button"
            aria-current={selected}
            onClick={() => select(row)}
            className={`block h-full w-full border-l-[3px] px-4 py-2 text-left ${
              selected ? 'border-primary bg-base-200' : 'border-transparent hover:bg-base-200/60'
            }`}
          >
            <GroupRow group={row} run={run} categories={categories.data} />
          </button>
        )}
      </KeyedList>
      <RunDecideBar
        key={chosen.group}
        project={project}
        run={run}
        group={chosen}
        categories={categories.data}
        mayEdit={mayEdit}
        onResults={() => props.onResults(chosen)}
        // It stays chosen when the list is sorted anew: a second press must not hit another one.
        onDecided={() => select(chosen)}
      />
    </>
  );
}

/** The next one below that nobody explained; after the last, and from a decided one, the widest. */
function nextUnsorted(groups: GroupInRun[], chosen: number): number | undefined {
  const at = groups.findIndex((one) => one.group === chosen);
  const below = groups.findIndex((one, i) => i > at && one.open > 0);
  const next = below < 0 ? groups.findIndex((one) => one.open > 0) : below;
  return next < 0 ? undefined : next;
}
