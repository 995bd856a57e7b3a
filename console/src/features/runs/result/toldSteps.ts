import type { StepBeside } from '../api';

/** A row that is shown, or how many were left out here. */
export type ToldStep =
  | { at: number; row: StepBeside; same?: undefined }
  | { at: number; row?: undefined; same: number };

/** All rows, or those that differ with what they are inside, and how many are between them. */
export function toldSteps(rows: StepBeside[], all: boolean): ToldStep[] {
  const kept = rows.map((row) => all || row.differs);
  // What a row that is kept lies in is the nearest one above it that is less deep.
  let depth = 0;
  for (let i = rows.length - 1; i >= 0; i--) {
    const its = rows[i]?.depth ?? 0;
    if (kept[i] || its < depth) {
      kept[i] = true;
      depth = its;
    }
  }
  const told: ToldStep[] = [];
  let same = 0;
  rows.forEach((row, at) => {
    if (!kept[at]) {
      same++;
    } else {
      if (same > 0) told.push({ at: at - same, same });
      same = 0;
      told.push({ at, row });
    }
  });
  if (same > 0) told.push({ at: rows.length - same, same });
  return told;
}
