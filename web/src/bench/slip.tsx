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
  useRef,
  useState,
  type ReactNode,
} from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { ask, client, Problem, type NumberName, type Schemas } from '../lib/client';
import { benchQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { useBench, type BenchData } from './bench';
import {
  mergeWishes,
  slipReducer,
  startOf,
  wishOf,
  type Change,
  type Merged,
  type SlipAction,
  type SlipState,
  type Wish,
} from './slipState';

export type { Change } from './slipState';

export interface Slip {
  view: Schemas['SlipView'];
  wish: Wish;
  busy: boolean;
  error: string | null;
  /** What another window of the same person put elsewhere meanwhile, with what was wanted here. */
  clash: Pick<Merged, 'clashes' | 'words'> | null;
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

/** How often in a row a slip is merged with what another window wrote, before that is told instead. */
const MOST_MERGED = 5;

const Context = createContext<Slip | null>(null);

export function useSlip(): Slip {
  const found = use(Context);
  if (!found) throw new Error('outside a slip');
  return found;
}

export function SlipProvider({ children }: { children: ReactNode }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const queries = useQueryClient();
  const [state, setState] = useState<SlipState>(() => startOf(bench.slip));
  const [error, setError] = useState<string | null>(null);
  const [clash, setClash] = useState<Slip['clash']>(null);
  const [busy, setBusy] = useState(false);
  const latest = useRef(state);
  const view = useRef(bench.slip);
  const work = useRef<Promise<Schemas['SlipView'] | null> | null>(null);
  const dirty = useRef(false);
  const awaited = useRef<Promise<unknown> | null>(null);
  const retry = useRef<() => void>(() => undefined);
  const key = benchQuery(bench.id).queryKey;

  const show = useCallback((action: SlipAction) => {
    latest.current = slipReducer(latest.current, action);
    setState(latest.current);
  }, []);

  // The server's draft is taken over whenever nothing of ours is waiting to be written.
  useEffect(() => {
    if (work.current || dirty.current) return;
    view.current = bench.slip;
    show({ type: 'adopt', wish: wishOf(bench.slip) });
  }, [bench.slip, show]);

  const write = useCallback(async (): Promise<Schemas['SlipView'] | null> => {
    if (!dirty.current) {
      work.current = null;
      return view.current;
    }
    setBusy(true);
    // an answer asked for before ours was written must not land on top of it: it is asked for again
    const hold = () => {
      const underWay = queries.isFetching({ queryKey: key }) > 0;
      void queries.cancelQueries({ queryKey: key });
      return underWay;
    };
    // another window wrote meanwhile: each row is as the one that touched it wants it
    const together = async () => {
      await queries.invalidateQueries({ queryKey: key });
      const theirs = queries.getQueryData<BenchData>(key)?.slip;
      if (!theirs) return;
      const merged = mergeWishes(wishOf(view.current), latest.current.wish, wishOf(theirs));
      view.current = theirs;
      show({ type: 'adopt', wish: merged.wish });
      dirty.current = JSON.stringify(merged.wish) !== JSON.stringify(wishOf(theirs));
      if (merged.clashes.length + merged.words.length > 0) setClash(merged);
    };
    let answer: Schemas['SlipView'] | null = view.current;
    try {
      let held = hold();
      const put = () =>
        ask(
          client.PUT('/api/cars/{car_id}/slip', {
            params: { path: { car_id: bench.id } },
            body: { version: view.current.version, ...latest.current.wish },
          }),
        );
      let refused = 0;
      while (dirty.current) {
        dirty.current = false;
        answer = await put().catch(async (problem: unknown) => {
          if (!(problem instanceof Problem) || problem.status !== 409) throw problem;
          if (++refused > MOST_MERGED) throw problem;
          await together();
          return view.current;
        });
        view.current = answer;
        setError(null);
        held = hold() || held;
      }
      const written = answer;
      queries.setQueryData(key, (old: BenchData | undefined) => old && { ...old, slip: written });
      if (held) void queries.invalidateQueries({ queryKey: key });
    } catch (problem) {
      answer = null;
      dirty.current = false;
      setError(problem instanceof Problem ? problem.detail : String(problem));
      if (problem instanceof Problem && [0, 503].includes(problem.status)) {
        dirty.current = true; // kept, and written as soon as the server is back
        setTimeout(() => retry.current(), 3_000);
      } else if (problem instanceof Problem) {
        show({ type: 'adopt', wish: wishOf(view.current) });
      }
    } finally {
      work.current = null;
      setBusy(false);
    }
    return answer;
  }, [bench.id, key, queries, show]);

  useEffect(() => {
    retry.current = () => {
      if (dirty.current) work.current ??= write();
    };
    return () => {
      retry.current = () => undefined;
    };
  }, [write]);

  // A window that is left writes at once what was waiting or under way. Only then is it asked to outlive
  // the page: that takes a browser longer. Where the one under way arrives first, this one is refused.
  useEffect(() => {
    const leave = () => {
      if (!dirty.current && !work.current) return;
      dirty.current = false;
      client
        .PUT('/api/cars/{car_id}/slip', {
          params: { path: { car_id: bench.id } },
          body: { version: view.current.version, ...latest.current.wish },
          keepalive: true,
        })
        .catch(() => undefined);
    };
    window.addEventListener('pagehide', leave);
    return () => window.removeEventListener('pagehide', leave);
  }, [bench.id]);

  const want = useCallback(
    (action: SlipAction) => {
      const before = latest.current;
      // written at the end of this press, ahead of the drawing that `show` sets off
      work.current ??= new Promise((done) => queueMicrotask(() => done(write())));
      show(action);
      dirty.current ||= latest.current !== before;
    },
    [show, write],
  );

  useHotkeys('mod+z', () => want({ type: 'undo' }), KEYS);
  useHotkeys('mod+shift+z', () => want({ type: 'redo' }), KEYS);

  const value = useMemo<Slip>(
    () => ({
      view: bench.slip,
      wish: state.wish,
      busy,
      error,
      clash,
      leaveClash: () => setClash(null),
      change: (changes) =>
        want({
          type: 'change',
          changes,
          booked: (one) =>
            bookedValue(bench, dictionary.places(one.name), one.name, one.place) ?? null,
        }),
      remove: (lines) => want({ type: 'remove', lines }),
      job: (id, done) => want({ type: 'job', id, done }),
      clear: () => want({ type: 'clear' }),
      words: (words) => want({ type: 'words', words }),
      undo: () => want({ type: 'undo' }),
      redo: () => want({ type: 'redo' }),
      canUndo: state.past.length > 0,
      canRedo: state.future.length > 0,
      coming: (answer) => {
        const over = () => {
          if (awaited.current === answer) awaited.current = null;
        };
        awaited.current = answer;
        answer.then(over, over); // a refusal is told where it was asked
      },
      settled: async () => {
        const arrived = () => true;
        const refused = () => false;
        if (awaited.current && !(await awaited.current.then(arrived, refused))) return null;
        return work.current ? await work.current : view.current;
      },
      reset: () => {
        show({ type: 'forget' });
        setError(null);
        setClash(null);
      },
    }),
    [bench, dictionary, state, busy, error, clash, want, show],
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
