import Markdown from 'react-markdown';
import remarkGfm from 'remark-gfm';

/**
 * CommonMark with tables. HTML inside stays text, addresses are http, https or mailto only, and images become
 * links: a page that somebody wrote must not make a reader's browser call elsewhere.
 */
export function RenderedMarkdown({ text }: { text: string }) {
  return (
    <Markdown
      remarkPlugins={[remarkGfm]}
      components={{
        a: ({ href, children }) => (
          <a href={href} className="link" target="_blank" rel="noreferrer noopener nofollow">
            {children}
          </a>
        ),
        img: ({ src, alt }) => (
          <a href={String(src)} className="link" target="_blank" rel="noreferrer noopener nofollow">
            {alt || 'image'}
          </a>
        ),
      }}
    >
      {text}
    </Markdown>
  );
}
