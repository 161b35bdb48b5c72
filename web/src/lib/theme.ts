/** Day or night, remembered on this device. */
export type Theme = 'day' | 'night';

export function savedTheme(): Theme {
  const saved = localStorage.getItem('theme');
  if (saved === 'day' || saved === 'night') return saved;
  return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day';
}

export function applyTheme(theme: Theme): void {
  document.documentElement.dataset.bsTheme = theme === 'night' ? 'dark' : 'light';
  localStorage.setItem('theme', theme);
}
