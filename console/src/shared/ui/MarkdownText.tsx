import { lazy, Suspense } from 'react';

const Rendered = lazy(async () => ({
  default: (await import('./RenderedMarkdown')).RenderedMarkdown,
}));

/** Markdown as a document; as it was typed while the reader for it is on its way. */
export function MarkdownText({ text }: { text: string }) {
  return (
    <div className="prose-notes max-w-[75ch] break-words">
      <Suspense fallback={<p className="whitespace-pre-wrap">{text}</p>}>
        <Rendered text={text} />
      </Suspense>
    </div>
  );
}
