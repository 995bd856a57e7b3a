import type { Board, Panel } from './types';

/** A board as it is taken along. */
export function taken(board: Pick<Board, 'name' | 'panels'>): string {
  return `${JSON.stringify({ name: board.name, panels: board.panels }, null, 2)}\n`;
}

/**
 * The board that such a file holds. What its panels say is checked by the portal.
 *
 * @throws when it holds none
 */
export function brought(text: string): { name: string; panels: Panel[] } {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    throw new Error('the file is no JSON; bring in a board that was taken along');
  }
  const board = read as { name?: unknown; panels?: unknown } | null;
  if (typeof board?.name !== 'string' || !Array.isArray(board.panels)) {
    throw new Error('the file is no board, which has a name and panels');
  }
  return { name: board.name, panels: board.panels as Panel[] };
}
