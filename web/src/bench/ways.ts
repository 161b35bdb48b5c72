/** How a setting moves and is shown: in steps, from part to part, or as a typed fact. The server says which. */
import type { NumberName, Schemas } from '../lib/client';
import { showPrecise, showValue } from '../lib/format';
import { useDictionary, type Dictionary } from '../lib/vocabulary';
import { useBench, type BenchData } from './bench';

export type Value = string | number | null;
type Choices = Schemas['ChoicesView'];

export interface Way {
  unit: string;
  show: (value: Value) => string;
  /** Where a value stands among its like, for a screen reader. */
  index: (value: Value) => number;
  next: (value: Value, by: 1 | -1) => Value | undefined;
  /** All that can be chosen, where it is one of a list. */
  options: Choices['options'];
  /** Why it cannot be moved here; empty where it can. */
  blocked: string;
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
  bench: Pick<BenchData, 'choices' | 'profile'>,
  name: NumberName,
  place: string,
): Way {
  const entry = dictionary.entry(name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const choices = bench.choices[name]?.[place];
  const blocked = choices?.blocked ?? '';
  const unit = choices?.unit ?? shown.symbol;
  if (entry.is_part) return { unit, blocked, ...among(choices?.options ?? []) };
  if (entry.is_fact)
    return {
      unit,
      blocked,
      show: (value) =>
        typeof value === 'number' ? showPrecise(value, shown).replace('-', '−') : 'not given',
      index: () => 0,
      next: () => undefined,
      options: [],
    };
  return {
    unit,
    blocked,
    show: (value) => (typeof value === 'number' ? showValue(value, shown) : 'not set'),
    index: (value) => (typeof value === 'number' ? value : 0),
    next: (value, by) => choices && inSteps(choices, value, by),
    options: [],
  };
}

/** The next step within the range; undefined past its end. */
function inSteps({ low, high, step, start }: Choices, value: Value, by: 1 | -1) {
  if (low === null || high === null || step === null) return undefined;
  if (typeof value !== 'number') return start ?? low;
  const to = Number((value + by * step).toPrecision(12));
  return to < low - 1e-9 || to > high + 1e-9 ? undefined : to;
}

/** One of a list, softest first. */
function among(options: Choices['options']): Omit<Way, 'unit' | 'blocked'> {
  const stock = options.filter((one) => one.value !== NONE_FITTED);
  const find = (code: Value) => stock.findIndex((one) => one.value === code);
  return {
    show: (code) => {
      const option = options.find((one) => one.value === code);
      return option?.shown ?? (code === null ? 'not set' : String(code));
    },
    index: find,
    next: (code, by) =>
      find(code) < 0 ? stock.at(by > 0 ? 0 : -1)?.value : stock[find(code) + by]?.value,
    options,
  };
}
