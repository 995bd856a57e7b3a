import Anser from 'anser';
import { useMemo } from 'react';

/** Printed text with its terminal colours; never markup. */
export function OutputBlock({ text, wrap = false }: { text: string; wrap?: boolean }) {
  const pieces = useMemo(
    () =>
      Anser.ansiToJson(text, { use_classes: true, json: true, remove_empty: true }).map(
        (piece) => ({
          text: piece.content,
          className: [
            piece.fg ? `${piece.fg}-fg` : '',
            ...piece.decorations.map((d) => `ansi-${d}`),
          ]
            .filter(Boolean)
            .join(' '),
        }),
      ),
    [text],
  );
  return (
    <pre className={wrap ? 'break-words whitespace-pre-wrap' : ''}>
      {pieces.map((piece, i) =>
        piece.className ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: pieces never move
          <span key={i} className={piece.className}>
            {piece.text}
          </span>
        ) : (
          piece.text
        ),
      )}
    </pre>
  );
}
