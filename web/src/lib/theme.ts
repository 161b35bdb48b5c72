/** Day or night: what this device's user chose, else what the system prefers, as it changes. */
export type Theme = 'day' | 'night';

const system = window.matchMedia('(prefers-color-scheme: dark)');

export function savedTheme(): Theme {
  const saved = localStorage.getItem('theme');
  if (saved === 'day' || saved === 'night') return saved;
  return system.matches ? 'night' : 'day';
}

function show(theme: Theme): void {
  document.documentElement.dataset.bsTheme = theme === 'night' ? 'dark' : 'light';
}

/** At the start: nothing is remembered that nobody chose, so the system's own change is followed. */
export function startTheme(): void {
  show(savedTheme());
  system.addEventListener('change', () => show(savedTheme()));
}

export function chooseTheme(theme: Theme): void {
  localStorage.setItem('theme', theme);
  show(theme);
}
