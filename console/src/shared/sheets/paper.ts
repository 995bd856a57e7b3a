import { applyTheme, storedTheme } from '../lib/theme';

/** What is drawn for the place that it has, and has to be drawn again for paper. */
const drawings = new Set<() => void>();

/** Draws it again whenever the page goes to paper, and when it is back; until the answer is called. */
export function onPaper(draw: () => void): () => void {
  drawings.add(draw);
  return () => void drawings.delete(draw);
}

/** At the head of every page but the first, which has the same in large. */
function pageHead(name: string): CSSStyleSheet {
  const text = name.replaceAll(/["\\\n\r\f]/g, (one) => `\\${one.charCodeAt(0).toString(16)} `);
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(
    `@page { @top-left { content: "${text}"; font-size: 9pt; color: #6b5f55 } }` +
      '@page :first { @top-left { content: none } }',
  );
  return sheet;
}

/**
 * Lays boards out as wide as paper, and light, for as long as a page is printed, by whatever it is
 * printed; until the answer is called.
 */
export function watchPaper(name: string): () => void {
  const head = pageHead(name);
  document.adoptedStyleSheets.push(head);
  const to = () => {
    document.documentElement.classList.add('on-paper');
    applyTheme('limestone');
    for (const draw of drawings) draw();
  };
  const back = () => {
    document.documentElement.classList.remove('on-paper');
    applyTheme(storedTheme());
    for (const draw of drawings) draw();
  };
  window.addEventListener('beforeprint', to);
  window.addEventListener('afterprint', back);
  return () => {
    window.removeEventListener('beforeprint', to);
    window.removeEventListener('afterprint', back);
    document.adoptedStyleSheets = document.adoptedStyleSheets.filter((one) => one !== head);
  };
}
