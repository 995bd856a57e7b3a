import { useState } from 'react';
import type { Panel } from '../types';

export interface Written {
  name: string;
  panels: readonly Panel[];
}

export interface Draft {
  now: Written;
  changed: boolean;
  change: (next: Partial<Written>) => void;
  /** Undefined when there is nothing to take back. */
  undo: (() => void) | undefined;
  redo: (() => void) | undefined;
  begin: (name: string, panels: readonly Panel[]) => void;
}

/** A board while it is edited, with every step to take back. */
export function useDraft(name: string, panels: readonly Panel[]): Draft {
  const [steps, setSteps] = useState<{ all: Written[]; at: number }>({
    all: [{ name, panels }],
    at: 0,
  });
  const now = steps.all[steps.at] ?? { name, panels };
  return {
    now,
    changed: steps.at > 0,
    change: (next) =>
      setSteps(({ all, at }) => {
        const was = all[at] ?? now;
        const wanted = { ...was, ...next };
        // What is typed letter by letter is one step.
        const typed = next.name !== undefined && at > 0 && all[at - 1]?.panels === was.panels;
        const before = all.slice(0, typed ? at : at + 1);
        return { all: [...before, wanted], at: before.length };
      }),
    undo: steps.at > 0 ? () => setSteps(({ all, at }) => ({ all, at: at - 1 })) : undefined,
    redo:
      steps.at < steps.all.length - 1
        ? () => setSteps(({ all, at }) => ({ all, at: at + 1 }))
        : undefined,
    begin: (first, all) => setSteps({ all: [{ name: first, panels: all }], at: 0 }),
  };
}
