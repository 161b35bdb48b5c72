import { describe, expect, it } from 'vitest';
import { pieces } from './formula';

describe('a formula taken apart', () => {
  it('finds indices and powers', () => {
    expect(pieces('k_w = k·MR²')).toEqual([
      { kind: 'sub', base: 'k', index: 'w' },
      { kind: 'sign', text: '=' },
      { kind: 'name', text: 'k' },
      { kind: 'sign', text: '·' },
      { kind: 'power', base: { kind: 'name', text: 'MR' }, exponent: '2' },
    ]);
  });
  it('puts a root over what stands in its brackets', () => {
    const [, , root, , figure] = pieces('f = √(k/m)·2');
    expect(root).toEqual({
      kind: 'root',
      inner: [
        { kind: 'name', text: 'k' },
        { kind: 'sign', text: '/' },
        { kind: 'name', text: 'm' },
      ],
    });
    expect(figure).toEqual({ kind: 'figure', text: '2' });
  });
  it('leaves words upright and loses nothing', () => {
    expect(pieces('pad − unsprung mass')).toEqual([
      { kind: 'words', text: 'pad' },
      { kind: 'sign', text: '−' },
      { kind: 'words', text: 'unsprung' },
      { kind: 'words', text: 'mass' },
    ]);
  });
  it('takes a power of a bracket and of an index', () => {
    expect(pieces('(a)²')[2]).toMatchObject({ kind: 'power', base: { text: ')' }, exponent: '2' });
    expect(pieces('t_F²')[0]).toMatchObject({ kind: 'power', base: { base: 't' } });
  });
});
