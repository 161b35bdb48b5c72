/** The one dictionary in the browser: numbers, units, stations, readings and kinds of part. */
import { createContext, use } from 'react';
import type { NumberName, Schemas } from './client';
import type { Shown } from './format';

export type Entry = Schemas['NumberEntry'];

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

  part(kind: string) {
    return this.data.parts.find((one) => one.name === kind);
  }

  discipline(id: string): Schemas['DisciplineEntry'] {
    const found = this.data.disciplines.find((one) => one.id === id);
    if (!found) throw new Error(`no discipline ${id}`);
    return found;
  }

  /** The rear layouts that cars of a discipline may have. */
  rearLayouts(discipline: string): string[] {
    const { layouts } = this.discipline(discipline);
    const all = this.data.choices.rear_layout ?? [];
    return layouts.length > 0 ? all.filter((one) => layouts.includes(one)) : all;
  }

  job(id: string): string {
    return this.data.jobs.find((one) => one.id === id)?.label ?? id;
  }

  /** Where a number is entered on a car: the address of its field, reading or part form. */
  whereEntered(car: number, discipline: string, name: NumberName): string | null {
    const door = this.entry(name).doors[discipline];
    return door ? `/cars/${car}/${door.view}#${door.anchor}` : null;
  }

  /** The stations of a car in the order of its work. */
  /** The stations of a car in the order of its work. */
  stationsFor(car: { discipline: string; rear_layout: string }) {
    return (this.data.orders[car.discipline] ?? []).flatMap((id) =>
      this.data.stations.filter(
        (one) =>
          one.id === id && (one.layouts.length === 0 || one.layouts.includes(car.rear_layout)),
      ),
    );
  }
}

const DictionaryContext = createContext<Dictionary | null>(null);
export const DictionaryProvider = DictionaryContext.Provider;

export function useDictionary(): Dictionary {
  const found = use(DictionaryContext);
  if (!found) throw new Error('outside the dictionary');
  return found;
}

/** The four corners as they stand on the car: left before right, front before rear. */
export const CORNERS = ['LF', 'RF', 'LR', 'RR'] as const;

export const PLACE_WORDS: Record<string, string> = {
  car: '',
  front: 'front',
  rear: 'rear',
  LF: 'left front',
  RF: 'right front',
  LR: 'left rear',
  RR: 'right rear',
  left: 'left',
  right: 'right',
  'upper chassis': 'upper bar, chassis bolt',
  'upper axle': 'upper bar, axle bolt',
  'lower chassis': 'lower bar, chassis bolt',
  'lower axle': 'lower bar, axle bolt',
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
