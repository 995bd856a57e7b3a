import { type UseQueryResult, useQuery } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { useEffect } from 'react';
import type { Cell, Sheet } from '../../../shared/sheets/api';
import { drawn } from '../../../shared/sheets/drawn';
import { fetchChart, LateChart } from '../../../shared/sheets/LateChart';
import { placeOf } from '../../../shared/sheets/place';
import { SheetTable } from '../../../shared/sheets/SheetTable';
import { MarkdownText } from '../../../shared/ui/MarkdownText';
import { Failed, Loading } from '../../../shared/ui/States';
import { sheetQuery } from '../api';
import { isChart, isTable, rowsIn, titleOf } from '../model';
import type { Panel, Switch } from '../types';
import { LatestRun } from './LatestRun';

/** What a panel shows, as a chart or in numbers. */
export function PanelView(props: {
  project: string;
  panel: Panel;
  board: Switch;
  inNumbers: boolean;
}) {
  const sheet = useQuery({
    ...sheetQuery(props.project, props.panel, props.board),
    enabled: props.panel.kind !== 'text',
  });
  return <SheetView {...props} project={props.panel.project ?? props.project} sheet={sheet} />;
}

/** The same of a sheet that somebody asked for, or waits for. */
export function SheetView(props: {
  /** Where its numbers lead. */
  project: string;
  panel: Panel;
  board: Switch;
  inNumbers: boolean;
  sheet: UseQueryResult<Sheet>;
}) {
  const { panel, sheet } = props;
  const charts = isChart(panel.kind) && !props.inNumbers;
  // What draws it comes while its numbers are made.
  useEffect(() => {
    if (charts) void fetchChart().catch(() => undefined);
  }, [charts]);
  if (panel.kind === 'text') {
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
  if (isEmpty(sheet.data, panel.kind)) {
    return (
      <p className="m-auto max-w-72 text-center text-quiet">
        {nothingOf(panel.kind)} in this time
        {panel.filter !== '' || props.board.filter ? ' and with this filter' : ''}.
      </p>
    );
  }
  return <Shown {...props} sheet={sheet.data} />;
}

function isEmpty(sheet: Sheet, kind: Panel['kind']): boolean {
  // Of groups that nobody explained there is a number, and no time that could be drawn.
  const many = kind === 'explaining' ? 'groups' : kind === 'mending' ? 'fixed' : null;
  const counted = sheet.columns.flatMap((column, i) =>
    many !== null && column.key !== many ? [] : [i],
  );
  return sheet.rows.every((row) =>
    counted.every((i) => (many === null ? row[i]?.number == null : !row[i]?.number)),
  );
}

function nothingOf(kind: Panel['kind']): string {
  switch (kind) {
    case 'worst':
      return 'No test failed';
    case 'flaky':
      return 'No test is taken for flaky';
    case 'slowing':
      return 'No test is known to have become slower';
    case 'slowest':
      return 'Of no test it is known how long it takes';
    case 'groups':
    case 'explaining':
      return 'No failure group';
    case 'mending':
      return 'No test was fixed';
    case 'tickets':
      return 'No failure has a ticket';
    case 'people':
      return 'Nobody explained a failure group';
    default:
      return 'No run';
  }
}

/** There is something, and nothing of it that could be drawn. */
function unknownOf(kind: Panel['kind']): string {
  switch (kind) {
    case 'explaining':
      return 'Failure groups were found in this time, and none of them is explained yet.';
    case 'mending':
      return 'Tests were fixed in this time; since when they failed is not known.';
    default:
      return 'There are runs in this time, and nothing of them that could be drawn.';
  }
}

function Shown(props: { project: string; panel: Panel; inNumbers: boolean; sheet: Sheet }) {
  const { project, panel, sheet } = props;
  const navigate = useNavigate();
  const open = (cell: Cell) => {
    if (cell.link) {
      void navigate(placeOf(project, cell.link));
    }
  };
  if (panel.kind === 'latest' && !props.inNumbers) {
    return <LatestRun project={project} sheet={sheet} />;
  }
  if (isTable(panel.kind) || props.inNumbers) {
    return (
      <SheetTable
        project={project}
        sheet={sheet}
        title={`${titleOf(panel)}, in numbers`}
        first={rowsIn(panel)}
      />
    );
  }
  if (drawn(sheet).every((i) => sheet.rows.every((row) => row[i]?.number == null))) {
    return <p className="m-auto max-w-72 text-center text-quiet">{unknownOf(panel.kind)}</p>;
  }
  return (
    <LateChart project={project} sheet={sheet} panel={panel} title={titleOf(panel)} onOpen={open} />
  );
}
