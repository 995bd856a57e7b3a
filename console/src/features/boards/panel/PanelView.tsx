import { useQuery } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { lazy, Suspense } from 'react';
import { MarkdownText } from '../../../shared/ui/MarkdownText';
import { Failed, Loading } from '../../../shared/ui/States';
import { type Cell, type Panel, type Sheet, type Switch, sheetQuery } from '../api';
import { isTable, titleOf } from '../model';
import { LatestRun } from './LatestRun';
import { SheetTable } from './SheetTable';

// Pages without a chart do not fetch what draws one.
const Chart = lazy(async () => ({ default: (await import('./Chart')).Chart }));

/** What a panel shows, as a chart or in numbers. */
export function PanelView(props: {
  project: string;
  panel: Panel;
  board: Switch;
  inNumbers: boolean;
}) {
  const { project, panel } = props;
  const words = panel.kind === 'text';
  const sheet = useQuery({ ...sheetQuery(project, panel, props.board), enabled: !words });
  if (words) {
    return (
      <div className="min-h-0 grow overflow-y-auto">
        <MarkdownText text={panel.text} />
      </div>
    );
  }
  if (sheet.error) {
    return <Failed error={sheet.error} retry={() => sheet.refetch()} />;
  }
  if (sheet.data === undefined) {
    return <Loading lines={2} />;
  }
  if (isEmpty(sheet.data)) {
    return (
      <p className="m-auto max-w-72 text-center text-quiet">
        No run in this time{panel.filter !== '' || props.board.filter ? ' fits the filter' : ''}.
      </p>
    );
  }
  return <Shown {...props} sheet={sheet.data} />;
}

function isEmpty(sheet: Sheet): boolean {
  return sheet.rows.every((row) => row.every((cell) => cell.number === null));
}

function Shown(props: { project: string; panel: Panel; inNumbers: boolean; sheet: Sheet }) {
  const { project, panel, sheet } = props;
  const navigate = useNavigate();
  const open = (cell: Cell) => {
    if (cell.link && cell.link.of !== 'test') {
      void navigate({
        to: '/$project/found',
        params: { project },
        search: { of: cell.link.of, filter: cell.link.filter },
      });
    }
  };
  if (panel.kind === 'latest' && !props.inNumbers) {
    return <LatestRun project={project} sheet={sheet} />;
  }
  if (isTable(panel.kind) || props.inNumbers) {
    return <SheetTable project={project} sheet={sheet} title={`${titleOf(panel)}, in numbers`} />;
  }
  return (
    <Suspense fallback={<Loading lines={2} />}>
      <Chart sheet={sheet} panel={panel} title={titleOf(panel)} onOpen={open} />
    </Suspense>
  );
}
