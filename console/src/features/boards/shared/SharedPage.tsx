import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { ApiError } from '../../../shared/api/client';
import { exactTime } from '../../../shared/lib/format';
import { watchPaper } from '../../../shared/sheets/paper';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { sharedBoardQuery, sharedSheetQuery } from '../api';
import { BoardGrid } from '../board/BoardGrid';
import { SheetView } from '../panel/PanelView';
import type { Panel } from '../types';

/** Where the link of a board leads; its secret stands behind the “#”, which no server sees. */
export function SharedPage({ secret }: { secret: string }) {
  const board = useQuery(sharedBoardQuery(secret));
  const name = board.data?.name ?? '';
  useEffect(() => watchPaper(name), [name]);
  if (board.error instanceof ApiError && board.error.status === 404) {
    return (
      <Empty title="This link opens nothing" page>
        {board.error.message}
      </Empty>
    );
  }
  // Where the portal cannot be reached for a moment, each panel says so and the board stays.
  if (board.data === undefined) {
    return board.error ? (
      <Failed page error={board.error} retry={() => board.refetch()} />
    ) : (
      <Loading lines={8} />
    );
  }
  const { version, panels, endsAt } = board.data;
  return (
    <main className="min-h-full bg-base-200 print:bg-base-100">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-base-300 bg-base-100 px-5 py-4">
        <h1 className="min-w-0 truncate font-serif text-2xl">{name}</h1>
        <p className="ml-auto text-sm text-quiet">
          To be read by this link until {exactTime(endsAt)}
        </p>
      </header>
      {panels.length === 0 ? (
        <Empty title="No panel yet">Whoever gave you the link has put nothing on the board.</Empty>
      ) : (
        <BoardGrid
          project=""
          id={0}
          panels={panels}
          board={{}}
          edit={undefined}
          view={(panel, place, inNumbers) => (
            <SharedPanel
              secret={secret}
              version={version}
              panel={panel}
              place={place}
              inNumbers={inNumbers}
              onChanged={() => void board.refetch()}
            />
          )}
        />
      )}
    </main>
  );
}

const CHANGED = 412;

function SharedPanel(props: {
  secret: string;
  version: number;
  panel: Panel;
  place: number;
  inNumbers: boolean;
  onChanged: () => void;
}) {
  const { panel, onChanged } = props;
  const sheet = useQuery({
    ...sharedSheetQuery(props.secret, props.version, props.place),
    enabled: panel.kind !== 'text' && panel.project === null,
  });
  const changed = sheet.error instanceof ApiError && sheet.error.status === CHANGED;
  const asked = useRef(onChanged);
  asked.current = onChanged;
  useEffect(() => {
    if (changed) asked.current();
  }, [changed]);
  return panel.project === null ? (
    <SheetView project="" panel={panel} board={{}} inNumbers={props.inNumbers} sheet={sheet} />
  ) : (
    <p className="m-auto max-w-72 text-center text-quiet">
      Of another project, which this link does not open.
    </p>
  );
}
