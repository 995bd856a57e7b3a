import { api, unwrap } from '../../shared/api/client';
import type { Sheet } from '../../shared/sheets/api';
import { byPlace, sheetIn } from './lines';
import { sheetOf } from './together';
import type { Board, Panel, Switch } from './types';

/**
 * Asks for the sheets of a board that is itself still on its way, by where its panels stand; each
 * says of which version of the board it is.
 */
export function sheetsAhead(project: string, board: number, { days, filter }: Switch) {
  const line = byPlace(
    unwrap(
      api.GET('/api/v1/projects/{project}/boards/{board}/sheets', {
        params: {
          path: { project, board },
          query: {
            ...(days === undefined ? {} : { days }),
            ...(filter === undefined ? {} : { filter }),
          },
        },
        parseAs: 'stream',
      }),
    ),
  );
  const taken = new Set<Panel>();
  return {
    /** The sheet of a panel of the board that came; asked for anew where none came for that. */
    async of(board: Board, panel: Panel): Promise<Sheet> {
      const place = board.panels.indexOf(panel) + 1;
      // Whoever asks again wants another answer than the one that was there before.
      const its = taken.has(panel) ? undefined : await line(place).catch(() => undefined);
      taken.add(panel);
      return its?.version === board.version
        ? sheetIn(its)
        : sheetOf(project, panel, { days, filter });
    },
  };
}
