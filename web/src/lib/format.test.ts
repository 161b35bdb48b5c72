import { describe, expect, it } from 'vitest';
import vectors from '../../../tests/core/rounding.json';
import { finer, showChange, showPrecise, showValue, showMove } from './format';

const mm = { symbol: 'mm', factor: 1000, offset: 0, precision: 0.5 };

describe('showing a value', () => {
  it.each(vectors)(
    'rounds $value by $precision as the server does',
    ({ value, precision, text }) => {
      expect(showValue(value, { symbol: '', factor: 1, offset: 0, precision })).toBe(text);
    },
  );
  it('gives a change its sign, and none to nothing', () => {
    expect(showChange(0.0042, mm)).toBe('+4.0');
    expect(showChange(-0.0042, mm)).toBe('−4.0');
    expect(showChange(0.0001, mm)).toBe('0.0');
  });
  it('leaves the offset of a temperature out of a change', () => {
    expect(showChange(5, { symbol: '°C', factor: 1, offset: -273.15, precision: 0.5 })).toBe(
      '+5.0',
    );
  });
  it('shows a small difference with one decimal more', () => {
    expect(showValue(0.00213, mm)).toBe('2.0');
    expect(showValue(0.00213, finer(mm))).toBe('2.15');
  });
  it('shows before, after and their difference so that they agree', () => {
    const ratio = { symbol: '', factor: 1, offset: 0, precision: 0.01 };
    expect(showMove(0.1964, 0.2249, ratio)).toEqual({
      before: '0.196',
      after: '0.225',
      change: '+0.029',
    });
    expect(showMove(0.2, 0.23, ratio)).toEqual({ before: '0.20', after: '0.23', change: '+0.03' });
  });
  it('shows a given number as it was typed', () => {
    expect(showPrecise(0.05715, mm)).toBe('57.15');
  });
});
