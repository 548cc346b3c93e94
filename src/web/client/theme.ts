export type Theme = 'system' | 'light' | 'dark';
const KEY = 'marmot-theme';

export const readTheme = (): Theme => {
  const kept = localStorage.getItem(KEY);
  return kept === 'light' || kept === 'dark' ? kept : 'system';
};

/** Shows the theme and remembers it on this device. */
export function setTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme);
  applyTheme();
}

export function applyTheme(): void {
  const dark = matchMedia('(prefers-color-scheme: dark)').matches;
  const theme = readTheme();
  document.documentElement.dataset.theme = theme === 'system' ? (dark ? 'dark' : 'light') : theme;
}
