import type { Schemas } from '../../shared/api/client';

export type Board = Schemas['Board'];
export type BoardLink = Schemas['BoardLink'];
export type Panel = Schemas['Panel'];
export type ReadyBoard = Schemas['ReadyBoard'];

/** What a whole board is switched to, for one look. */
export interface Switch {
  days?: number | undefined;
  filter?: string | undefined;
}
