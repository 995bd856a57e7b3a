import { ChevronDown, ChevronUp } from 'lucide-react';
import { type ReactNode, type RefObject, useEffect, useRef, useState } from 'react';
import { count } from '../../../shared/lib/format';
import { useKey } from '../../../shared/lib/keys';
import { usePausedText } from '../../../shared/lib/paused';
import { findIn, MOST_FOUND } from './findIn';

/** What is shown settles for so long before it is searched again. */
const SETTLE_MS = 120;

const ALL = 'vine-found';
const HERE = 'vine-found-here';

/** A search within what a result shows: places are marked, Enter goes from one to the next. */
export function FindBox(props: {
  within: RefObject<HTMLElement | null>;
  find: string;
  onFind: (find: string) => void;
}) {
  const { within } = props;
  const [find, setFind] = usePausedText(props.find, props.onFind);
  const field = useRef<HTMLInputElement>(null);
  const places = usePlaces(within, find);
  const [at, setAt] = useState(0);
  const shown = Math.min(at, places.length - 1);
  useKey('f', () => field.current?.focus());
  useEffect(() => mark(places, shown), [places, shown]);
  const revealed = useRef('');
  useEffect(() => {
    // While somebody types, the first place comes into sight; later changes of the page move nothing.
    if (places.length > 0 && revealed.current !== find) {
      revealed.current = find;
      reveal(places[0]);
    }
  }, [places, find]);
  const go = (by: number) => {
    if (places.length > 0) {
      const next = (shown + by + places.length) % places.length;
      setAt(next);
      reveal(places[next]);
    }
  };
  return (
    <search className="flex min-w-0 items-center gap-1">
      <input
        ref={field}
        type="search"
        className="input input-sm w-52 min-w-0"
        placeholder="Find in the result  ( f )"
        aria-label="Find in the result"
        value={find}
        onChange={(event) => {
          setAt(0);
          setFind(event.target.value);
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter') {
            event.preventDefault();
            go(event.shiftKey ? -1 : 1);
          } else if (event.key === 'Escape') {
            setFind('');
            field.current?.blur();
          }
        }}
      />
      {find === '' ? null : (
        <>
          <span className="text-sm whitespace-nowrap text-quiet tabular-nums" role="status">
            {placesWord(places.length, shown)}
          </span>
          <Step label="The place before" onClick={() => go(-1)} disabled={places.length === 0}>
            <ChevronUp size={15} aria-hidden />
          </Step>
          <Step label="The next place" onClick={() => go(1)} disabled={places.length === 0}>
            <ChevronDown size={15} aria-hidden />
          </Step>
        </>
      )}
    </search>
  );
}

function placesWord(places: number, shown: number): string {
  if (places === 0) {
    return 'not found in what is shown';
  }
  return `${count(shown + 1)} of ${places === MOST_FOUND ? 'more than ' : ''}${count(places)}`;
}

function Step(props: {
  label: string;
  onClick: () => void;
  disabled: boolean;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      className="btn btn-ghost btn-xs btn-square"
      aria-label={props.label}
      title={props.label}
      disabled={props.disabled}
      onClick={props.onClick}
    >
      {props.children}
    </button>
  );
}

/** Where the text stands, looked for again whenever what is shown has changed. */
function usePlaces(within: RefObject<HTMLElement | null>, find: string): Range[] {
  const [places, setPlaces] = useState<Range[]>([]);
  useEffect(() => {
    const root = within.current;
    if (!root || find === '') {
      setPlaces([]);
      return;
    }
    let waiting: ReturnType<typeof setTimeout> | undefined;
    const look = () => {
      waiting = undefined;
      setPlaces(findIn(root, find));
    };
    const soon = () => {
      waiting ??= setTimeout(look, SETTLE_MS);
    };
    soon();
    const changes = new MutationObserver(soon);
    changes.observe(root, { childList: true, characterData: true, subtree: true });
    return () => {
      clearTimeout(waiting);
      changes.disconnect();
    };
  }, [within, find]);
  return places;
}

/** Marks places without touching the page; an old browser shows none, and still goes to them. */
function mark(places: Range[], shown: number): () => void {
  const marks = globalThis.CSS?.highlights;
  if (!marks) {
    return () => {};
  }
  marks.set(ALL, new Highlight(...places));
  const here = places[shown];
  marks.set(HERE, here ? new Highlight(here) : new Highlight());
  return () => {
    marks.delete(ALL);
    marks.delete(HERE);
  };
}

function reveal(place: Range | undefined): void {
  const element = place?.startContainer.parentElement;
  if (!element || !place) {
    return;
  }
  element.closest('details')?.setAttribute('open', '');
  element.scrollIntoView({ block: 'center' });
  // A long text is one element: its box is scrolled to the line.
  const box = scrolled(element);
  const line = place.getBoundingClientRect();
  const frame = box?.getBoundingClientRect();
  if (box && frame && (line.top < frame.top || line.bottom > frame.bottom)) {
    box.scrollTop += line.top - frame.top - frame.height / 3;
  }
}

/** The box around an element that is scrolled by itself, as those of long texts are. */
function scrolled(element: Element): Element | undefined {
  for (let box: Element | null = element; box; box = box.parentElement) {
    if (
      box.scrollHeight > box.clientHeight &&
      /auto|scroll/.test(getComputedStyle(box).overflowY)
    ) {
      return box;
    }
  }
  return undefined;
}
