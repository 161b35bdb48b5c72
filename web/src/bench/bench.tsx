/** What every view of a car shares: the bench as the API gives it, and the panels over it. */
import { createContext, use, useDeferredValue, type ReactNode } from 'react';
import type { NumberName, Schemas } from '../lib/client';

export type BenchData = Schemas['BenchView'];

export interface BenchContext {
  bench: BenchData;
  explain: (name: NumberName, place?: string) => void;
  refresh: () => Promise<void>;
}

const Context = createContext<BenchContext | null>(null);
export const BenchProvider = Context.Provider;

export function useBench(): BenchContext {
  const found = use(Context);
  if (!found) throw new Error('outside a bench');
  return found;
}

/** The bench as it was a moment ago, for what takes long to draw: the figures beside it go first. */
export function BenchLater({ children }: { children: ReactNode }) {
  const later = useDeferredValue(use(Context));
  return <Context value={later}>{children}</Context>;
}

/** What a saved change leads to: the bench as it stands now, then whatever comes next. */
export function useSaved(then: () => void = () => undefined) {
  const { refresh } = useBench();
  return {
    onSuccess: async () => {
      await refresh();
      then();
    },
  };
}

/** A number's SI value at one place, if it has one there. */
export const valueAt = (bench: BenchData, name: NumberName, at = 0): number | undefined =>
  bench.figures[name]?.values?.[at] ?? undefined;

/** The same once the slip is booked. */
export const afterAt = (bench: BenchData, name: NumberName, at = 0): number | undefined =>
  bench.slip.after[name]?.[at] ?? undefined;

/** A number's SI values where every place has one. */
export function valuesOf(bench: BenchData, name: NumberName): number[] | undefined {
  const values = bench.figures[name]?.values ?? undefined;
  return values?.every((one) => one !== null) ? values : undefined;
}

/** The target range of a number at a place for this car's use, if there is one. */
export function bandOf(bench: BenchData, name: NumberName, place: string) {
  return bench.bands.find((band) => band.number === name && band.place === place);
}

/**
 * How a station stands: the worst of its readings. One taken only when needed is not missed; where none counts
 * there is nothing to stand, which is not the same as fresh.
 */
export function stationStatus(
  bench: BenchData,
  readings: string[],
  whenNeeded: (kind: string) => boolean,
): Schemas['StandingView']['status'] | null {
  const order = ['fresh', 'missing', 'doubtful', 'void'] as const;
  let worst = -1;
  for (const standing of bench.standings)
    if (
      readings.includes(standing.kind) &&
      !(standing.status === 'missing' && whenNeeded(standing.kind))
    )
      worst = Math.max(worst, order.indexOf(standing.status));
  return order[worst] ?? null;
}
