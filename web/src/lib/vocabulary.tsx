/** The one dictionary in the browser: entries, and showing SI values in a car's units. */
import { createContext, use } from 'react';
import type { NumberName, Schemas } from './client';

export type Entry = Schemas['NumberEntry'];
export type Shown = Schemas['ShownAs'];

export class Dictionary {
  private readonly byName: Map<string, Entry>;
  constructor(readonly data: Schemas['Vocabulary']) {
    this.byName = new Map(data.numbers.map((entry) => [entry.name, entry]));
  }

  entry(name: NumberName): Entry {
    const found = this.byName.get(name);
    if (!found) throw new Error(`no number is called ${name}`);
    return found;
  }

  places(name: NumberName): string[] {
    return this.data.places[this.entry(name).shape] ?? [];
  }

  shown(quantity: string, profile: string): Shown {
    const found = this.data.measures[quantity]?.[profile];
    if (!found) throw new Error(`no unit for ${quantity} in ${profile}`);
    return found;
  }

  reading(kind: string) {
    return this.data.readings.find((one) => one.id === kind);
  }

  stationsFor(discipline: string) {
    return this.data.stations.filter((one) => one.disciplines.includes(discipline));
  }
}

const DictionaryContext = createContext<Dictionary | null>(null);
export const DictionaryProvider = DictionaryContext.Provider;

export function useDictionary(): Dictionary {
  const found = use(DictionaryContext);
  if (!found) throw new Error('outside the dictionary');
  return found;
}

export function decimalsOf(precision: number): number {
  for (let places = 0; places < 5; places += 1) {
    if (Math.abs(precision * 10 ** places - Math.round(precision * 10 ** places)) < 1e-9)
      return Math.min(places, 3);
  }
  return 3;
}

/** An SI value in shown units, rounded to the precision worth showing; a true minus sign. */
export function showValue(si: number, shown: Shown): string {
  const value = Math.round((si * shown.factor + shown.offset) / shown.precision) * shown.precision;
  const text = (value === 0 ? 0 : value).toFixed(decimalsOf(shown.precision));
  return text.replace('-', '−');
}

/** A change, always with its sign. */
export function showChange(si: number, shown: Shown): string {
  const text = showValue(si - shown.offset / shown.factor, shown);
  return text.startsWith('−') || Number(text) === 0 ? text : `+${text}`;
}

export const PLACE_WORDS: Record<string, string> = {
  car: '',
  front: 'front',
  rear: 'rear',
  LF: 'left front',
  RF: 'right front',
  LR: 'left rear',
  RR: 'right rear',
};

export function axleOf(place: string): 'front' | 'rear' {
  return place === 'LF' || place === 'RF' || place === 'front' ? 'front' : 'rear';
}

export const OTHER_SIDE: Record<string, string> = { LF: 'RF', RF: 'LF', LR: 'RR', RR: 'LR' };

/** "Spring, both rear" from the places of like lines. */
export function whereWords(label: string, places: string[]): string {
  if (places.length === 1 && places[0] === 'car') return label;
  const key = places.join(' ');
  const groups: Record<string, string> = {
    'LF RF': 'both front',
    'LR RR': 'both rear',
    'LF RF LR RR': 'all four',
    'front rear': 'front and rear',
  };
  return `${label}, ${groups[key] ?? places.map((place) => PLACE_WORDS[place] ?? place).join(', ')}`;
}
