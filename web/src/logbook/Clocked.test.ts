import { describe, expect, it } from 'vitest';
import { clockTime, lapTime, typedTime } from './Clocked';

describe('times', () => {
  it('are shown as a clock writes them', () => {
    expect(lapTime(92.456)).toBe('1:32.46');
    expect(lapTime(61.2)).toBe('1:01.20');
    expect(clockTime(9.8712)).toBe('9.871');
  });
  it('go back into their fields with all that was typed', () => {
    expect(typedTime(92.4567)).toBe('1:32.4567');
    expect(typedTime(61.2)).toBe('1:01.2');
    expect(typedTime(120)).toBe('2:00');
    expect(typedTime(9.87)).toBe('9.87');
    expect(typedTime(-0.012)).toBe('-0.012');
  });
});
