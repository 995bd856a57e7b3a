import type { FilterSaid, SavedFilter } from '../../shared/filter/api';

/** Saved filters as they are taken along, those first that others name. */
export function taken(filters: SavedFilter[]): string {
  const said = filters.map(({ name, of, filter }) => ({ name, of, filter }));
  return `${JSON.stringify(ordered(said), null, 2)}\n`;
}

/**
 * What such a file says.
 *
 * @throws when it is none
 */
export function brought(text: string): FilterSaid[] {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    throw new Error('the file is no JSON; bring one in that was taken along here');
  }
  if (!Array.isArray(read) || !read.every(isSaid)) {
    throw new Error('the file is no list of filters, each with name, of and filter');
  }
  return ordered(read.map(({ name, of, filter }) => ({ name, of, filter })));
}

function isSaid(one: unknown): one is FilterSaid {
  const said = one as Partial<FilterSaid> | null;
  return (
    typeof said === 'object' &&
    typeof said?.name === 'string' &&
    typeof said.of === 'string' &&
    typeof said.filter === 'string'
  );
}

/** Whoever is named stands before whoever names it. */
function ordered(all: FilterSaid[]): FilterSaid[] {
  const put: FilterSaid[] = [];
  let left = all;
  while (left.length > 0) {
    const free = left.filter(
      (one) =>
        !left.some((other) => other !== one && one.filter.includes(JSON.stringify(other.name))),
    );
    // Two that name each other are none that can be kept; the portal says so.
    const next = free.length > 0 ? free : left;
    put.push(...next);
    left = left.filter((one) => !next.includes(one));
  }
  return put;
}
