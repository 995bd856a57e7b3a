import { ApiError, problemOf, type Schemas } from '../../shared/api/client';
import type { Sheet } from '../../shared/sheets/api';

type Line = Schemas['SheetLine'];

/**
 * Sheets that come on a line each, whichever is made first. Each is had by its place as soon as it
 * is there; undefined when all have come and it has not.
 */
export function byPlace(
  coming: Promise<ReadableStream<Uint8Array> | null>,
): (panel: number) => Promise<Line | undefined> {
  const places = new Map<number, Place>();
  const at = (panel: number): Place => {
    const place = places.get(panel) ?? newPlace();
    places.set(panel, place);
    return place;
  };
  const all = coming.then((stream) => read(stream, (line) => at(line.panel).take(line)));
  const over = all.then(() => undefined);
  // Nobody may have asked.
  over.catch(() => undefined);
  return (panel) => Promise.race([at(panel).line, over]);
}

/** What a line tells, or why it tells nothing. */
export function sheetIn(line: Line | undefined): Sheet {
  if (line?.sheet) {
    return line.sheet;
  }
  throw line?.problem
    ? problemOf(line.problem)
    : new ApiError(0, 'The portal told nothing of this panel.');
}

interface Place {
  line: Promise<Line>;
  take: (line: Line) => void;
}

function newPlace(): Place {
  let take: Place['take'] = () => undefined;
  const line = new Promise<Line>((come) => {
    take = come;
  });
  return { line, take };
}

async function read(stream: ReadableStream<Uint8Array> | null, each: (line: Line) => void) {
  const reader = stream?.getReader();
  const text = new TextDecoder();
  let rest = '';
  try {
    for (let some = await reader?.read(); some && !some.done; some = await reader?.read()) {
      const lines = (rest + text.decode(some.value, { stream: true })).split('\n');
      rest = lines.pop() ?? '';
      for (const line of lines) {
        each(JSON.parse(line));
      }
    }
  } catch {
    throw new ApiError(0, 'The answer broke off. Is the portal running, and is the network up?');
  }
}
