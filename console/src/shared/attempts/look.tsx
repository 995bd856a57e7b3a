import { createContext, useContext } from 'react';
import type { Outcome } from '../ui/OutcomeGlyph';
import type { Level } from './reading';

/** What of a result is shown, and what is looked for in it. */
export interface Look {
  find: string;
  /** Empty for all. */
  steps: readonly Outcome[];
  /** Empty for all. */
  levels: readonly Level[];
}

export const WHOLE: Look = { find: '', steps: [], levels: [] };

interface Looking {
  look: Look;
  onLook: (next: Partial<Look>) => void;
}

export const LookContext = createContext<Looking>({ look: WHOLE, onLook: () => {} });

export function useLook(): Looking {
  return useContext(LookContext);
}
