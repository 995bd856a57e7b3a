import { useQuery } from '@tanstack/react-query';
import { ArrowDown } from 'lucide-react';
import { KeyedList } from '../../../shared/layout/KeyedList';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { renamesQuery } from '../api';
import type { TestsSearch } from '../model';

const ROW = 88;

/** Tests of a stream that go on under other names, the latest first. */
export function RenameList(props: {
  project: string;
  search: TestsSearch;
  onOpen: (test: number, stream: string) => void;
}) {
  const { search } = props;
  if (search.stream === undefined) {
    return (
      <Empty title="Of which stream?">
        A test is renamed in a stream: choose one above, at the right.
      </Empty>
    );
  }
  return <OfStream {...props} stream={search.stream} />;
}

function OfStream(props: {
  project: string;
  stream: string;
  search: TestsSearch;
  onOpen: (test: number, stream: string) => void;
}) {
  const renames = useQuery(renamesQuery(props.project, props.stream));
  if (renames.isPending) {
    return <Loading lines={8} />;
  }
  if (renames.error) {
    return <Failed error={renames.error} retry={() => renames.refetch()} />;
  }
  if (renames.data.length === 0) {
    return <Empty title="No renamed test">Every test of {props.stream} kept its name.</Empty>;
  }
  const rows = [...renames.data].reverse();
  return (
    <KeyedList
      label="List of renamed tests"
      rows={rows}
      rowHeight={ROW}
      keyOf={(row) => `${row.oldTest} ${row.newTest}`}
      selected={rows
        .filter((row) => row.newTest === props.search.test)
        .map((row) => `${row.oldTest} ${row.newTest}`)
        .at(0)}
      onSelect={(row) => props.onOpen(row.newTest, props.stream)}
      onMore={undefined}
    >
      {(row, selected) => (
        <button
          type="button"
          aria-current={selected}
          onClick={() => props.onOpen(row.newTest, props.stream)}
          className={`block h-full w-full border-l-[3px] px-4 py-2 text-left ${
            selected ? 'border-primary bg-base-200' : 'border-transparent hover:bg-base-200/60'
          }`}
        >
          <span className="block truncate text-[13px] text-quiet" title={row.old}>
            {shortly(row.old)}
          </span>
          <span className="flex min-w-0 items-baseline gap-1.5">
            <ArrowDown size={13} className="shrink-0 self-center text-quiet" aria-hidden />
            <span className="sr-only">goes on as</span>
            <span className="min-w-0 truncate font-semibold" title={row.new}>
              {shortly(row.new)}
            </span>
          </span>
          <span className="flex items-baseline gap-2 text-[13px] text-quiet">
            <span className="min-w-0 truncate">{row.reasons.join(', ')}</span>
            <span className="ml-auto shrink-0">
              {row.state === 'joined' ? 'joined' : `perhaps, ${Math.round(row.likely * 100)} %`}
              {row.run === null ? '' : ` in #${row.run}`}
            </span>
          </span>
        </button>
      )}
    </KeyedList>
  );
}

/** Without the packages around its class: what differs is at the end. */
function shortly(test: string): string {
  const hash = test.indexOf('#');
  const suite = test.slice(0, hash);
  return suite.slice(suite.lastIndexOf('.') + 1) + test.slice(hash);
}
