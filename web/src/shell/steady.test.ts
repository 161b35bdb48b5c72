import { describe, expect, it } from 'vitest';
import { isSecondPress } from './steady';

describe('a press soon after another', () => {
  const last = { at: 1000, x: 100, y: 50, on: 'Verdict' };
  const press = { at: 1300, x: 110, y: 55, on: 'Undo this revision' };

  it('lands on nothing that slid under it', () => expect(isSecondPress(press, last)).toBe(true));
  it('counts on what was pressed before', () =>
    expect(isSecondPress({ ...press, on: 'Verdict' }, last)).toBe(false));
  it('counts half a second later', () =>
    expect(isSecondPress({ ...press, at: 1500 }, last)).toBe(false));
  it('counts elsewhere', () => expect(isSecondPress({ ...press, x: 124 }, last)).toBe(false));
  it('is let through where there is nothing to press', () =>
    expect(isSecondPress({ ...press, on: null }, last)).toBe(false));
});
