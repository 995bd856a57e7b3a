import { api, problemOf, type Schemas, unwrap } from '../../shared/api/client';
import type { Sheet } from '../../shared/sheets/api';
import type { Board, Panel, Switch } from './api';
import { sheetOf } from './together';

type Part = Schemas['BoardSheets'];

/**
 * In so many requests side by side. Where there are few cores, answers that come at once and one
 * by one keep the browser from drawing what is there.
 */
export function partsFor(cores: number): number {
  return Math.max(1, Math.min(3, Math.floor(cores / 2)));
}

/**
 * Asks for the sheets of a board that is itself still on its way, by where its panels stand; the
 * answer says of which version of the board that is.
 */
export function sheetsAhead(project: string, board: number, shown: Switch, parts: number) {
  const coming = Array.from({ length: parts }, (_, i) =>
    askPart(project, board, shown, i + 1, parts).catch(() => undefined),
  );
  const taken = new Set<Panel>();
  return {
    /** The sheet of a panel of the board that came; asked for anew where none came for that. */
    async of(board: Board, panel: Panel): Promise<Sheet> {
      const at = board.panels.indexOf(panel);
      // Whoever asks again wants another answer than the one that was there before.
      const part = taken.has(panel) ? undefined : await coming[at % parts];
      taken.add(panel);
      const its =
        part?.version === board.version
          ? part.sheets.find((one) => one.panel === at + 1)
          : undefined;
      if (its?.problem) {
        throw problemOf(its.problem);
      }
      return its?.sheet ?? sheetOf(project, panel, shown);
    },
  };
}

function askPart(
  project: string,
  board: number,
  { days, filter }: Switch,
  part: number,
  parts: number,
): Promise<Part> {
  return unwrap(
    api.GET('/api/v1/projects/{project}/boards/{board}/sheets', {
      params: {
        path: { project, board },
        query: {
          ...(days === undefined ? {} : { days }),
          ...(filter === undefined ? {} : { filter }),
          part,
          parts,
        },
      },
    }),
  );
}
