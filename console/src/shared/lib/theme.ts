export type Theme = 'limestone' | 'vault';

const KEY = 'vine-theme';

/** The chosen theme; without a choice, what the system prefers. */
export function storedTheme(): Theme {
  const stored = localStorage.getItem(KEY);
  if (stored === 'limestone' || stored === 'vault') {
    return stored;
  }
  return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'vault' : 'limestone';
}

export function applyTheme(theme: Theme): void {
  document.documentElement.dataset.theme = theme;
}

export function chooseTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme);
  applyTheme(theme);
}
