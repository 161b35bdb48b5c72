/** A formula as written in the dictionary, taken apart for typesetting: `k_w = k·MR²`. */

export type Piece =
  | { kind: 'name' | 'figure' | 'sign' | 'words'; text: string }
  | { kind: 'sub'; base: string; index: string }
  | { kind: 'power'; base: Piece; exponent: string }
  | { kind: 'root'; inner: Piece[] };

const POWERS: Record<string, string> = { '²': '2', '³': '3', '⁴': '4', '⁻': '−' };
const TOKEN =
  /([A-Za-zΑ-Ωα-ωζθφψΔΣ∂]+(?:_[A-Za-z0-9Α-Ωα-ω,]+)?(?:′|'|%)?)|(\d+(?:\.\d+)?)|([²³⁴]+)|(√)|(\s+)|(.)/gu;

/** The pieces of a formula, in their order. Words of several letters stand upright. */
export function pieces(formula: string): Piece[] {
  return read([...formula.matchAll(TOKEN)].map((found) => found[0])).pieces;
}

function read(tokens: string[], from = 0, until = ''): { pieces: Piece[]; next: number } {
  const found: Piece[] = [];
  let at = from;
  let depth = 0;
  while (at < tokens.length) {
    const token = tokens[at] ?? '';
    if (until && token === until && depth === 0) return { pieces: found, next: at + 1 };
    if (token === '(') depth += 1;
    if (token === ')') depth -= 1;
    if (token === '√') {
      const group = tokens[at + 1] === '(';
      const inner = group ? read(tokens, at + 2, ')') : read(tokens.slice(0, at + 2), at + 1);
      found.push({ kind: 'root', inner: inner.pieces });
      at = inner.next;
      continue;
    }
    const power = Array.from(token, (letter) => POWERS[letter]);
    const last = found.at(-1);
    if (power.every((one) => one !== undefined) && last) {
      found[found.length - 1] = { kind: 'power', base: last, exponent: power.join('') };
    } else if (token.trim()) found.push(piece(token));
    at += 1;
  }
  return { pieces: found, next: at };
}

function piece(token: string): Piece {
  const [base = '', index] = token.split('_');
  if (index !== undefined && base) return { kind: 'sub', base, index };
  if (/^\d/.test(token)) return { kind: 'figure', text: token };
  if (/^[A-Za-zΑ-Ωα-ω]+/.test(token))
    return { kind: token.length > 2 ? 'words' : 'name', text: token };
  return { kind: 'sign', text: token };
}
