import { applyTheme, storedTheme } from '../../../shared/lib/theme';

/** Charts are drawn anew when the theme is another one. */
const DRAWN_MS = 400;

/** Prints the page, on paper that is light whatever the screen is. */
export async function printed(): Promise<void> {
  const before = storedTheme();
  applyTheme('limestone');
  await new Promise((done) => setTimeout(done, DRAWN_MS));
  window.addEventListener('afterprint', () => applyTheme(before), { once: true });
  window.print();
}
