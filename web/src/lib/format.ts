/** Showing SI values in a car's units. The one rounding rule, the same as the server's. */
import type { Schemas } from './client';

export type Shown = Schemas['ShownAs'];

/** The same with a capital letter: a label that begins a line. */
export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

function decimalsOf(precision: number): number {
  for (let places = 0; places < 5; places += 1) {
    if (Math.abs(precision * 10 ** places - Math.round(precision * 10 ** places)) < 1e-9)
      return Math.min(places, 3);
  }
  return 3;
}

/** Halves go away from zero; the hair keeps a half that a float holds just below it. */
function rounded(value: number, step: number): number {
  const steps = Math.floor(Math.abs(value) / step + 0.5 + 1e-9);
  return steps === 0 ? 0 : Math.sign(value) * steps * step;
}

/** An SI value in shown units, rounded to the precision worth showing; a true minus sign. */
export function showValue(si: number, shown: Shown): string {
  const value = rounded(si * shown.factor + shown.offset, shown.precision);
  const hair = Math.sign(value) * 1e-9; // a half of the last decimal goes the same way on both sides
  return (value + hair).toFixed(decimalsOf(shown.precision)).replace('-', '−');
}

/** The same with one decimal more, for small differences. */
export const finer = (shown: Shown): Shown => ({ ...shown, precision: shown.precision / 10 });

/** A change, always with its sign. */
export function showChange(si: number, shown: Shown): string {
  const text = showValue(si - shown.offset / shown.factor, shown);
  return text.startsWith('−') || Number(text) === 0 ? text : `+${text}`;
}

/** A given number is shown to more digits than it is worth, so that what was typed comes back. */
export function showPrecise(si: number, shown: Shown): string {
  const value = si * shown.factor + shown.offset;
  return String(Number(value.toFixed(decimalsOf(shown.precision) + 2)));
}

/**
 * Before, after and their difference so that the three agree: with a decimal more where rounding each alone
 * would contradict, as 0.20, 0.22 and +0.03 do.
 */
export function showMove(
  before: number,
  after: number,
  shown: Shown,
): { before: string; after: string; change: string } {
  const with_ = (as: Shown) => ({
    before: showValue(before, as),
    after: showValue(after, as),
    change: showChange(after - before, as),
  });
  const figure = (text: string) => Number(text.replace('−', '-').replace('+', ''));
  let told = with_(shown);
  for (let as = shown, tries = 0; tries < 2; tries += 1) {
    const off = figure(told.after) - figure(told.before) - figure(told.change);
    if (Math.abs(off) < as.precision / 2) break;
    as = finer(as);
    told = with_(as);
  }
  return told;
}
