import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { ApiError } from '../../../shared/api/client';
import { exactTime } from '../../../shared/lib/format';
import { watchPaper } from '../../../shared/sheets/paper';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { type Panel, sharedBoardQuery, sharedSheetQuery } from '../api';
import { BoardGrid } from '../board/BoardGrid';
import { SheetView } from '../panel/PanelView';

/** Where the link of a board leads; its secret stands behind the “#”, which no server sees. */
export function SharedPage({ secret }: { secret: string }) {
  const board = useQuery(sharedBoardQuery(secret));
  useEffect(watchPaper, []);
  if (board.error) {
    return board.error instanceof ApiError && board.error.status === 404 ? (
      <Empty title="This link opens nothing" page>
        {board.error.message}
      </Empty>
    ) : (
      <Failed page error={board.error} retry={() => board.refetch()} />
    );
  }
  if (board.data === undefined) {
    return <Loading lines={8} />;
  }
  const { name, panels, endsAt } = board.data;
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
            <SharedPanel secret={secret} panel={panel} place={place} inNumbers={inNumbers} />
          )}
        />
      )}
    </main>
  );
}

function SharedPanel(props: { secret: string; panel: Panel; place: number; inNumbers: boolean }) {
  const { panel } = props;
  const sheet = useQuery({
    ...sharedSheetQuery(props.secret, props.place, panel),
    enabled: panel.kind !== 'text' && panel.project === null,
  });
  return panel.project === null ? (
    <SheetView project="" panel={panel} board={{}} inNumbers={props.inNumbers} sheet={sheet} />
  ) : (
    <p className="m-auto max-w-72 text-center text-quiet">
      Of another project, which this link does not open.
    </p>
  );
}
