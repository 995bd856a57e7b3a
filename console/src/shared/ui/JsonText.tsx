import { useMemo } from 'react';

const TOKEN = /("(?:\\.|[^"\\])*")(\s*:)?|\b(true|false|null)\b|-?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?/g;

/** JSON, laid out where it is whole, with names, texts and values told apart. */
export function JsonText({ text }: { text: string }) {
  const pieces = useMemo(() => coloured(laidOut(text)), [text]);
  return (
    <pre className="break-words whitespace-pre-wrap">
      {pieces.map((piece, i) =>
        piece.kind ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: pieces never move
          <span key={i} className={piece.kind}>
            {piece.text}
          </span>
        ) : (
          piece.text
        ),
      )}
    </pre>
  );
}

function laidOut(text: string): string {
  try {
    return JSON.stringify(JSON.parse(text), null, 2);
  } catch {
    return text;
  }
}

/** The text in pieces; those that mean something have a class. */
export function coloured(text: string): { text: string; kind: string }[] {
  const pieces: { text: string; kind: string }[] = [];
  let end = 0;
  for (const match of text.matchAll(TOKEN)) {
    if (match.index > end) {
      pieces.push({ text: text.slice(end, match.index), kind: '' });
    }
    const [whole, quoted, colon] = match;
    if (quoted && colon) {
      pieces.push({ text: quoted, kind: 'font-semibold' }, { text: colon, kind: '' });
    } else {
      pieces.push({ text: whole, kind: quoted ? 'text-passed' : 'text-errored' });
    }
    end = match.index + whole.length;
  }
  pieces.push({ text: text.slice(end), kind: '' });
  return pieces;
}
