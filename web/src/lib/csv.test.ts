import { describe, expect, it } from 'vitest';
import { csvOf } from './csv';

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
