import { describe, expect, it } from 'vitest';
import { csvOf, pastedRows } from './csv';

describe('a table as CSV', () => {
  it('quotes what would break a row', () => {
    expect(
      csvOf([
        ['a;b', 'say "so"'],
        ['1', ''],
      ]),
    ).toBe('"a;b";"say ""so"""\r\n1;');
  });
});

describe('rows pasted into fields', () => {
  const places = ['LF', 'RF', 'LR', 'RR'];

  it('fill the places in their order, a repeat a row', () => {
    expect(pastedRows('250,5\t251\t262\t263\n250\t251\t262\t263\n', places)).toEqual([
      { LF: '250,5', RF: '251', LR: '262', RR: '263' },
      { LF: '250', RF: '251', LR: '262', RR: '263' },
    ]);
  });

  it('go by the heading, and its unit goes behind the figure', () => {
    expect(pastedRows('RF [lb];LF [lb];LR [lb];RR [lb]\n551;552 kg;560;561', places)).toEqual([
      { RF: '551 lb', LF: '552 kg', LR: '560 lb', RR: '561 lb' },
    ]);
  });

  it('keep a cell in quotes whole, its quotes and separators too', () => {
    expect(pastedRows('"LF";"RF"\n"250;5";"say ""so"""\n\n', ['LF', 'RF'])).toEqual([
      { LF: '250;5', RF: 'say "so"' },
    ]);
  });

  it('say where a column is missing, and leave a plain figure alone', () => {
    expect(pastedRows('1;2;3;4\n1;2;3', places)).toBe(
      'Row 2 has 3 figures and needs 4: LF, RF, LR, RR.',
    );
    expect(pastedRows('LF;RF;LR;XX\n1;2;3;4', places)).toBe(
      'The columns are to be LF, RF, LR, RR.',
    );
    expect(pastedRows('250,5', places)).toBeNull();
    expect(pastedRows('1;2', ['car'])).toBeNull();
  });
});

describe('what was written as CSV', () => {
  it('reads back cell by cell', () => {
    const rows = [
      ['LF', 'RF'],
      ['a;b', 'say "so"\nand more'],
    ];
    expect(pastedRows(csvOf(rows), ['LF', 'RF'])).toEqual([
      { LF: 'a;b', RF: 'say "so"\nand more' },
    ]);
  });
});

describe('a cell that a spreadsheet would work out', () => {
  it('is marked as words, and figures are left alone', () => {
    expect(csvOf([['=1+2', '@x', '-cmd|x', '-2.5', '+0.03 g', 'plain']])).toBe(
      `"'=1+2";"'@x";"'-cmd|x";-2.5;+0.03 g;plain`,
    );
  });
});
