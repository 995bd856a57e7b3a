import type { PastResult } from '../api';

/** Results of a branch, the latest first. */
export interface OfBranch {
  name: string;
  results: PastResult[];
}

/** A branch of fewer results has no row of its own: reviews have a branch each. */
const FEW = 2;

/** More branches have no row of their own. */
const MOST = 8;

/** By branch, the one that was run most first; small ones together, and those of none. */
export function branchesApart(results: PastResult[]): OfBranch[] {
  const named = results.filter((one) => one.branch !== null);
  const apart = [...new Set(named.map((one) => one.branch ?? ''))]
    .map((name) => ({ name, results: named.filter((one) => one.branch === name) }))
    .filter((one) => one.results.length >= FEW)
    .sort((one, other) => other.results.length - one.results.length)
    .slice(0, MOST);
  const own = new Set(apart.map((one) => one.name));
  return [
    ...apart,
    {
      name: apart.length > 0 ? 'other branches' : 'branches',
      results: named.filter((one) => !own.has(one.branch ?? '')),
    },
    { name: 'no branch told', results: results.filter((one) => one.branch === null) },
  ].filter((one) => one.results.length > 0);
}
