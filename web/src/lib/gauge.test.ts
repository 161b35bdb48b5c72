import { describe, expect, it } from 'vitest';
import { pinionAngle, slopeOf } from './gauge';

describe('a gauge on pinion and shaft', () => {
  it('has its sign from the way it points, not from what is typed', () => {
    expect(slopeOf({ degrees: '2.5', rises: true })).toBe(2.5);
    expect(slopeOf({ degrees: '2,5', rises: false })).toBe(-2.5);
    expect(slopeOf({ degrees: '-2.5', rises: true })).toBeNull();
    expect(slopeOf({ degrees: '', rises: true })).toBeNull();
    expect(slopeOf({ degrees: '90', rises: true })).toBeNull();
  });
  it('gives the pinion against the shaft: both pointing alike is a difference', () => {
    const up = (degrees: string) => ({ degrees, rises: true });
    const down = (degrees: string) => ({ degrees, rises: false });
    expect(pinionAngle(up('1.0'), up('3.0'))).toBe(-2);
    expect(pinionAngle(down('1.0'), up('1.5'))).toBe(-2.5);
    expect(pinionAngle(up('3.1'), up('3.0'))).toBe(0.1);
    expect(pinionAngle(up('3.1'), up(''))).toBeNull();
  });
});
