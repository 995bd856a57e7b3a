import type { Schemas } from '../api/client';

export type Sheet = Schemas['Sheet'];
export type Column = Schemas['SheetColumn'];
export type Cell = Schemas['SheetCell'];
export type SheetLink = Schemas['SheetLink'];
export type Shift = Schemas['SheetShift'];

export type Kind = Schemas['Panel']['kind'];

/** How a sheet is drawn. */
export interface Drawn {
  kind: Kind;
  step: string;
}
