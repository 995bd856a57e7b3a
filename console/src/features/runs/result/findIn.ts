/** More places than these are not told apart any more. */
export const MOST_FOUND = 2000;

/** Elements whose text reads on without a break. */
const INLINE = new Set(['SPAN', 'CODE', 'A', 'B', 'STRONG', 'EM', 'TIME', 'MARK', 'BUTTON']);

interface Piece {
  node: Text;
  from: number;
}

/**
 * The places below an element where a text stands, whatever its case, in reading order; also where
 * it runs over several pieces of one line, as coloured output does.
 */
export function findIn(root: Element, text: string): Range[] {
  const wanted = text.toLowerCase();
  const found: Range[] = [];
  if (wanted === '') {
    return found;
  }
  let pieces: Piece[] = [];
  let joined = '';
  let block: Element | null = null;
  const search = () => {
    const low = joined.toLowerCase();
    // Of a few letters the small form is longer; then places would not be where they seem.
    const whole = low.length === joined.length ? low : joined;
    for (
      let at = whole.indexOf(wanted);
      at >= 0 && found.length < MOST_FOUND;
      at = whole.indexOf(wanted, at + wanted.length)
    ) {
      found.push(rangeOf(pieces, at, at + wanted.length));
    }
    pieces = [];
    joined = '';
  };
  const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT, (node) =>
    node.parentElement?.closest('.sr-only, [data-not-searched]')
      ? NodeFilter.FILTER_REJECT
      : NodeFilter.FILTER_ACCEPT,
  );
  while (walker.nextNode()) {
    const node = walker.currentNode as Text;
    const own = blockOf(node);
    if (own !== block) search();
    block = own;
    pieces.push({ node, from: joined.length });
    joined += node.data;
  }
  search();
  return found;
}

function blockOf(node: Text): Element | null {
  let element = node.parentElement;
  while (element && INLINE.has(element.tagName)) element = element.parentElement;
  return element;
}

function rangeOf(pieces: Piece[], from: number, to: number): Range {
  const range = document.createRange();
  const start = pieces.findLast((piece) => piece.from <= from) as Piece;
  const end = pieces.findLast((piece) => piece.from < to) as Piece;
  range.setStart(start.node, from - start.from);
  range.setEnd(end.node, to - end.from);
  return range;
}
