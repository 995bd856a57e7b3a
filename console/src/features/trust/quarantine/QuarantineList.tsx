import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { KeyedList } from '../../../shared/layout/KeyedList';
import { plural } from '../../../shared/lib/format';
import { useMayEdit } from '../../../shared/session/may';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { MOST, proposedQuery, type Quarantine, quarantineQuery, type Taken } from '../api';
import { TestRow } from '../list/TestRow';
import type { TestsSearch } from '../model';
import { ByFilterDialog } from './ByFilterDialog';
import { QuarantineRow } from './QuarantineRow';

const ROW = 92;

type Row = { kept: Quarantine } | { proposed: Taken };

/** Tests in quarantine, those that end first first; behind them flaky ones that are in none. */
export function QuarantineList(props: {
  project: string;
  search: TestsSearch;
  onOpen: (test: number, stream: string | undefined) => void;
}) {
  const { project, search } = props;
  const kept = useQuery(quarantineQuery(project, search.stream));
  const proposed = useQuery(proposedQuery(project, search.stream));
  const error = kept.error ?? proposed.error;
  if (error) {
    return <Failed error={error} retry={() => Promise.all([kept.refetch(), proposed.refetch()])} />;
  }
  if (!kept.data || !proposed.data) {
    return <Loading lines={8} />;
  }
  const rows: Row[] = [
    ...kept.data.map((one) => ({ kept: one })),
    ...proposed.data.map((one) => ({ proposed: one })),
  ];
  const open = (row: Row) => {
    if ('proposed' in row) {
      props.onOpen(row.proposed.estimate.id, row.proposed.stream);
    } else {
      props.onOpen(row.kept.testId, row.kept.stream ?? search.stream);
    }
  };
  return (
    <>
      <Above project={project} kept={kept.data.length} proposed={proposed.data.length} />
      {rows.length === 0 ? (
        <Empty title="No test in quarantine">
          And no flaky test that would be proposed for it. A test is put there with{' '}
          <kbd className="kbd kbd-sm">q</kbd>, wherever it is looked at.
        </Empty>
      ) : (
        <KeyedList
          label="List of tests in quarantine, and of those proposed for it"
          rows={rows}
          rowHeight={ROW}
          keyOf={keyOf}
          selected={rows
            .filter((row) => isChosen(row, search))
            .map(keyOf)
            .at(0)}
          onSelect={open}
          onMore={undefined}
        >
          {(row, selected) => (
            <button
              type="button"
              aria-current={selected}
              onClick={() => open(row)}
              className={`block h-full w-full border-l-[3px] px-4 py-2 text-left ${
                selected ? 'border-primary bg-base-200' : 'border-transparent hover:bg-base-200/60'
              }`}
            >
              {'kept' in row ? (
                <QuarantineRow one={row.kept} />
              ) : (
                <>
                  <TestRow taken={row.proposed} />
                  <span className="sr-only">proposed for quarantine</span>
                </>
              )}
            </button>
          )}
        </KeyedList>
      )}
    </>
  );
}

/** How many there are, and the way to put many there. */
function Above(props: { project: string; kept: number; proposed: number }) {
  const mayEdit = useMayEdit(props.project);
  const [asked, setAsked] = useState(false);
  return (
    <div className="flex shrink-0 items-center gap-3 border-b border-base-300 px-4 py-2 text-[13px]">
      <span className="text-quiet">
        {props.kept === MOST ? `the first ${MOST}` : props.kept} in quarantine
        {props.proposed === 0
          ? ''
          : `, behind them ${plural(props.proposed, 'flaky test')} that ${
              props.proposed === 1 ? 'is' : 'are'
            } in none`}
      </span>
      {mayEdit ? (
        <button type="button" className="btn btn-xs ml-auto" onClick={() => setAsked(true)}>
          Add by filter
        </button>
      ) : null}
      {asked ? <ByFilterDialog project={props.project} onClose={() => setAsked(false)} /> : null}
    </div>
  );
}

function keyOf(row: Row): string {
  return 'kept' in row
    ? `kept ${row.kept.id}`
    : `proposed ${row.proposed.estimate.id} ${row.proposed.stream}`;
}

function isChosen(row: Row, search: TestsSearch): boolean {
  return 'kept' in row
    ? row.kept.testId === search.test && (row.kept.stream === null || row.kept.stream === search.in)
    : row.proposed.estimate.id === search.test && row.proposed.stream === search.in;
}
