/**
 * The change slip in the browser. The screen shows a change at once; the server keeps the draft and
 * answers with what it would do. Writes go one after another, the newest wish winning.
 */
import { useQueryClient } from '@tanstack/react-query';
import {
  createContext,
  use,
  useCallback,
  useDeferredValue,
  useEffect,
  useMemo,
  useState,
  type ReactNode,
} from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { ask, client, type NumberName, type Schemas } from '../lib/client';
import { benchQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { useBench, type BenchData } from './bench';
import { startOf, type Change, type Wish } from './slipState';
import { SlipWriter, type Clash, type SlipNews, type SlipServer } from './slipWriter';

export type { Change } from './slipState';

export interface Slip {
  view: Schemas['SlipView'];
  wish: Wish;
  busy: boolean;
  error: string | null;
  /** What another window of the same person put elsewhere meanwhile, with what was wanted here. */
  clash: Clash | null;
  /** Leave it as the other window wants it. */
  leaveClash: () => void;
  /** Put changes on the slip; a change back to what is booked takes its line off. */
  change: (changes: Change[]) => void;
  remove: (lines: { name: NumberName; place: string }[]) => void;
  /** Say that a job that alters no number is done with this slip, or is not. */
  job: (id: string, done: boolean) => void;
  clear: () => void;
  words: (words: Partial<Pick<Wish, 'why' | 'expectation' | 'session_id'>>) => void;
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
  /** Changes that are on their way to the slip: whoever books waits for them. */
  coming: (answer: Promise<unknown>) => void;
  /** Waits until every wish is written; null where the last one, or what was on its way, was refused. */
  settled: () => Promise<Schemas['SlipView'] | null>;
  reset: () => void;
}

/** Undo works from a setting in hand, and leaves fields that are typed in to the browser. */
const KEYS = { preventDefault: true, enableOnFormTags: ['spinbutton', 'select'] as const };

const Context = createContext<Slip | null>(null);

export function useSlip(): Slip {
  const found = use(Context);
  if (!found) throw new Error('outside a slip');
  return found;
}

/** The draft of this car on the server, and in what the page has fetched. */
function useServer(car: number): SlipServer {
  const queries = useQueryClient();
  return useMemo(() => {
    const key = benchQuery(car).queryKey;
    const params = { path: { car_id: car } };
    return {
      put: (body) => ask(client.PUT('/api/cars/{car_id}/slip', { params, body })),
      theirs: async () => {
        await queries.invalidateQueries({ queryKey: key });
        return queries.getQueryData<BenchData>(key)?.slip;
      },
      putLast: (body) => {
        client
          .PUT('/api/cars/{car_id}/slip', { params, body, keepalive: true })
          .catch(() => undefined);
      },
      hold: () => {
        const underWay = queries.isFetching({ queryKey: key }) > 0;
        void queries.cancelQueries({ queryKey: key });
        return underWay;
      },
      show: (view, held) => {
        queries.setQueryData(key, (old: BenchData | undefined) => old && { ...old, slip: view });
        if (held) void queries.invalidateQueries({ queryKey: key });
      },
    };
  }, [car, queries]);
}

/** The writer of this car's slip, and what it tells. */
function useWriter(): [SlipWriter, SlipNews, (news: Partial<SlipNews>) => void] {
  const { bench } = useBench();
  const server = useServer(bench.id);
  const [news, setNews] = useState<SlipNews>(() => ({
    state: startOf(bench.slip),
    busy: false,
    error: null,
    clash: null,
  }));
  const tell = useCallback(
    (more: Partial<SlipNews>) => setNews((old) => ({ ...old, ...more })),
    [],
  );
  const [writer] = useState(() => new SlipWriter(bench.slip, server, tell));
  useEffect(() => writer.adopt(bench.slip), [writer, bench.slip]);
  useEffect(() => () => writer.stop(), [writer]);
  useEffect(() => {
    const leave = () => writer.leave();
    window.addEventListener('pagehide', leave);
    return () => window.removeEventListener('pagehide', leave);
  }, [writer]);
  return [writer, news, tell];
}

export function SlipProvider({ children }: { children: ReactNode }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const [writer, news, tell] = useWriter();
  useHotkeys('mod+z', () => writer.want({ type: 'undo' }), KEYS);
  useHotkeys('mod+shift+z', () => writer.want({ type: 'redo' }), KEYS);
  const value = useMemo<Slip>(
    () => ({
      view: bench.slip,
      wish: news.state.wish,
      busy: news.busy,
      error: news.error,
      clash: news.clash,
      leaveClash: () => tell({ clash: null }),
      change: (changes) =>
        writer.want({
          type: 'change',
          changes,
          booked: (one) =>
            bookedValue(bench, dictionary.places(one.name), one.name, one.place) ?? null,
        }),
      remove: (lines) => writer.want({ type: 'remove', lines }),
      job: (id, done) => writer.want({ type: 'job', id, done }),
      clear: () => writer.want({ type: 'clear' }),
      words: (words) => writer.want({ type: 'words', words }),
      undo: () => writer.want({ type: 'undo' }),
      redo: () => writer.want({ type: 'redo' }),
      canUndo: news.state.past.length > 0,
      canRedo: news.state.future.length > 0,
      coming: (answer) => writer.await(answer),
      settled: () => writer.settled(),
      reset: () => writer.reset(),
    }),
    [bench, dictionary, news, tell, writer],
  );
  return <Context value={value}>{children}</Context>;
}

/** The slip as it was a moment ago, as `BenchLater` is of the bench. */
export function SlipLater({ children }: { children: ReactNode }) {
  const later = useDeferredValue(use(Context));
  return <Context value={later}>{children}</Context>;
}

/** What is booked at a place: a setting, the code of a part, or a fact of the car. */
export function bookedValue(
  bench: BenchData,
  places: string[],
  name: NumberName,
  place: string,
): string | number | null | undefined {
  const values = bench.setup[name] ?? bench.given[name]?.values;
  return values?.[places.indexOf(place)] as string | number | null | undefined;
}

export interface Setting {
  value: string | number | null;
  booked: string | number | null;
  drafted: boolean;
}

/** What a set number is with the slip applied, and whether the slip moves it. */
export function useSetting(name: NumberName, place: string): Setting {
  const { bench } = useBench();
  const { wish } = useSlip();
  const places = useDictionary().places(name);
  return settingOf(bench, wish, places, name, place);
}

export function settingOf(
  bench: BenchData,
  wish: { changes: Change[] },
  places: string[],
  name: NumberName,
  place: string,
): Setting {
  const booked = bookedValue(bench, places, name, place) ?? null;
  const line = wish.changes.find((one) => one.name === name && one.place === place);
  return { value: line ? line.new : booked, booked, drafted: line !== undefined };
}
