/** How a setting moves and is shown: in steps, from part to part, or as a typed fact. */
import type { NumberName, Schemas } from '../lib/client';
import { showPrecise, showValue } from '../lib/format';
import { axleOf, useDictionary, type Dictionary } from '../lib/vocabulary';
import { useBench, type BenchData } from './bench';

export type Value = string | number | null;

export interface Way {
  unit: string;
  show: (value: Value) => string;
  /** Where a value stands among its like, for a screen reader. */
  index: (value: Value) => number;
  next: (value: Value, by: 1 | -1) => Value | undefined;
  /** All that can be chosen, where it is one of a list. */
  options: { value: string; words: string }[];
}

/** The code that says that nothing of a kind is fitted. */
const NONE_FITTED = 'none';

/** How a number moves on this car at a place. */
export function useWay(name: NumberName, place: string): Way {
  const { bench } = useBench();
  return wayOf(useDictionary(), bench, name, place);
}

export function wayOf(
  dictionary: Dictionary,
  bench: BenchData,
  name: NumberName,
  place: string,
): Way {
  const entry = dictionary.entry(name);
  if (entry.is_part) return fromStock(dictionary, bench, name, place);
  if (entry.is_fact) return fact(dictionary, bench, name);
  return stepped(dictionary, bench, name, place);
}

function stepped(dictionary: Dictionary, bench: BenchData, name: NumberName, place: string): Way {
  const entry = dictionary.entry(name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const adjuster = bench.adjusters[name];
  const [low, high] = within(
    adjuster?.at[place] ?? [adjuster?.lowest ?? 0, adjuster?.highest ?? 0],
    fittedAt(dictionary, bench, place).map((part) => part.ranges[name]),
  );
  const size = entry.step ?? shown.precision / shown.factor;
  const counted = adjuster?.counted === 'from_open' ? 'from open' : 'out';
  return {
    unit: entry.quantity === 'clicks' ? counted : shown.symbol,
    show: (value) => (typeof value === 'number' ? showValue(value, shown) : 'not set'),
    index: (value) => (typeof value === 'number' ? value : 0),
    next: (value, by) => {
      if (!adjuster) return undefined;
      // a setting that nobody made starts where its range holds nothing, or at its lower end
      if (typeof value !== 'number') return low <= 0 && high >= 0 ? 0 : low;
      const to = Number((value + by * size).toPrecision(12));
      return to < low - 1e-9 || to > high + 1e-9 ? undefined : to;
    },
    options: [],
  };
}

function fromStock(dictionary: Dictionary, bench: BenchData, name: NumberName, place: string): Way {
  const stock = stockFor(bench, name, place);
  const kind = dictionary.part(name);
  const rank = kind?.fields.find((field) => field.kind === 'figure' && field.needed);
  const shown = rank ? dictionary.shown(rank.quantity, bench.profile) : null;
  const find = (code: Value) => stock.findIndex((one) => one.code === code);
  const ranked = stock.some((one) => one.ranks !== null) && shown;
  const words = (one: Schemas['PartView']) =>
    ranked && one.ranks !== null ? showValue(one.ranks, shown) : one.code;
  return {
    unit: ranked ? shown.symbol : '',
    show: (code) => {
      if (code === NONE_FITTED) return 'none fitted';
      const part = stock[find(code)];
      if (part) return words(part);
      return code === null ? 'not set' : String(code);
    },
    index: find,
    next: (code, by) =>
      find(code) < 0 ? stock.at(by > 0 ? 0 : -1)?.code : stock[find(code) + by]?.code,
    options: [
      ...(kind?.can_be_none ? [{ value: NONE_FITTED, words: 'none fitted' }] : []),
      ...stock.map((one) => ({
        value: one.code,
        words: ranked ? `${words(one)} ${shown.symbol}, ${one.code}` : one.code,
      })),
    ],
  };
}

function fact(dictionary: Dictionary, bench: BenchData, name: NumberName): Way {
  const shown = dictionary.shown(dictionary.entry(name).quantity, bench.profile);
  return {
    unit: shown.symbol,
    show: (value) =>
      typeof value === 'number' ? showPrecise(value, shown).replace('-', '−') : 'not given',
    index: () => 0,
    next: () => undefined,
    options: [],
  };
}

/** The parts of a kind that fit a place, in the inventory's order. */
export function stockFor(bench: BenchData, kind: string, place: string): Schemas['PartView'][] {
  const axle = axleOf(place);
  return (bench.parts[kind] ?? []).filter(
    (one) => one.fits === 'both' || one.fits === axle || !['front', 'rear'].includes(axle),
  );
}

/** The parts fitted at a place, as booked. */
function fittedAt(dictionary: Dictionary, bench: BenchData, place: string): Schemas['PartView'][] {
  return Object.entries(bench.parts).flatMap(([kind, parts]) => {
    const at = dictionary.places(kind as NumberName).indexOf(place);
    const code = at < 0 ? undefined : bench.setup[kind as NumberName]?.[at];
    return parts.filter((one) => one.code === code);
  });
}

/** A range, no further than any of the parts there lets it go. */
function within(range: number[], parts: (number[] | undefined)[]): [number, number] {
  const told = parts.filter((one) => one !== undefined);
  const low = Math.max(range[0] ?? 0, ...told.map((one) => one[0] ?? -Infinity));
  const high = Math.min(range[1] ?? 0, ...told.map((one) => one[1] ?? Infinity));
  return [low, high];
}

/** Why a setting cannot move at a place: the part fitted there holds it fast. */
export function blockedBy(
  bench: BenchData,
  dictionary: Dictionary,
  name: NumberName,
  place: string,
): string {
  const never = bench.not_here[name]?.[place];
  if (never) return never;
  const held = fittedAt(dictionary, bench, place).find((one) => one.blocked[name]);
  return held?.blocked[name] ?? '';
}
