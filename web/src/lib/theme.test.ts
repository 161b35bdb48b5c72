import { beforeEach, describe, expect, it, vi } from 'vitest';

const system = { matches: false, changed: () => undefined as unknown };
const kept = new Map<string, string>();
const page = { documentElement: { dataset: {} as Record<string, string> } };
vi.stubGlobal('window', {
  matchMedia: () => ({
    get matches() {
      return system.matches;
    },
    addEventListener: (_: string, changed: () => void) => (system.changed = changed),
  }),
});
vi.stubGlobal('localStorage', {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => kept.set(key, value),
});
vi.stubGlobal('document', page);
const { chooseTheme, savedTheme, startTheme } = await import('./theme');

beforeEach(() => {
  kept.clear();
  system.matches = false;
});

describe('day or night', () => {
  it('is what the system prefers, as it changes, until somebody chooses', () => {
    startTheme();
    expect(page.documentElement.dataset.bsTheme).toBe('light');
    system.matches = true;
    system.changed();
    expect(page.documentElement.dataset.bsTheme).toBe('dark');
    expect(savedTheme()).toBe('night');
  });
  it('stays as it was chosen', () => {
    system.matches = true;
    chooseTheme('day');
    expect(page.documentElement.dataset.bsTheme).toBe('light');
    expect(savedTheme()).toBe('day');
    chooseTheme('night');
    system.matches = false;
    expect(savedTheme()).toBe('night');
  });
  it('is the system’s where something else is kept', () => {
    kept.set('theme', 'dusk');
    expect(savedTheme()).toBe('day');
  });
});
