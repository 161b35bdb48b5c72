/**
 * The change slip in the browser. The screen shows a change at once; the server keeps the draft and
 * answers with what it would do. Writes go one after another, the newest wish winning.
 */
import { useQueryClient } from '@tanstack/react-query';
import {
  createContext,
  use,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from 'react';
import { ask, client, Problem, type NumberName, type Schemas } from '../lib/client';
import { benchQuery } from '../lib/queries';
import { useBench, type BenchData } from './bench';

export interface Change {
  name: NumberName;
  place: string;
  new: string | number;
}

interface Wish {
  changes: Change[];
  why: string;
  expectation: string;
  session_id: number | null;
}

export interface Slip {
  view: Schemas['SlipView'];
  wish: Wish;
  busy: boolean;
  error: string | null;
  /** Put changes on the slip; a change back to what is booked takes its line off. */
  change: (changes: Change[]) => void;
  remove: (lines: { name: NumberName; place: string }[]) => void;
  clear: () => void;
  words: (words: Partial<Pick<Wish, 'why' | 'expectation' | 'session_id'>>) => void;
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
  /** Waits until every wish is written; null where the last one was refused. */
  settled: () => Promise<Schemas['SlipView'] | null>;
  reset: () => void;
}

const Context = createContext<Slip | null>(null);

export function useSlip(): Slip {
  const found = use(Context);
  if (!found) throw new Error('outside a slip');
  return found;
}

function wishOf(view: Schemas['SlipView']): Wish {
  return {
    changes: view.lines.map((line) => ({
      name: line.name,
      place: line.place,
      new: line.new as string | number,
    })),
    why: view.why,
    expectation: view.expectation,
    session_id: view.session_id,
  };
}

export function SlipProvider({ children }: { children: ReactNode }) {
  const { bench } = useBench();
  const queries = useQueryClient();
  const [wish, setWish] = useState<Wish>(() => wishOf(bench.slip));
  const [past, setPast] = useState<Change[][]>([]);
  const [future, setFuture] = useState<Change[][]>([]);
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const latest = useRef(wish);
  const view = useRef(bench.slip);
  const work = useRef<Promise<Schemas['SlipView'] | null> | null>(null);
  const dirty = useRef(false);
  const again = useRef<() => void>(() => undefined);
  const key = benchQuery(bench.id).queryKey;

  // The server's draft is taken over whenever nothing of ours is waiting to be written.
  useEffect(() => {
    if (work.current || dirty.current) return;
    view.current = bench.slip;
    latest.current = wishOf(bench.slip);
    setWish(latest.current);
  }, [bench.slip]);

  const write = useCallback(async (): Promise<Schemas['SlipView'] | null> => {
    setBusy(true);
    await queries.cancelQueries({ queryKey: key }); // an older answer must not land on top of ours
    let answer: Schemas['SlipView'] | null = view.current;
    try {
      while (dirty.current) {
        dirty.current = false;
        answer = await ask(
          client.PUT('/api/cars/{car_id}/slip', {
            params: { path: { car_id: bench.id } },
            body: { version: view.current.version, ...latest.current },
          }),
        );
        view.current = answer;
        setError(null);
      }
      const written = answer;
      queries.setQueryData(key, (old: BenchData | undefined) => old && { ...old, slip: written });
    } catch (problem) {
      answer = null;
      dirty.current = false;
      setError(problem instanceof Problem ? problem.detail : String(problem));
      if (problem instanceof Problem && problem.status === 409) {
        await queries.invalidateQueries({ queryKey: key });
      } else if (problem instanceof Problem && problem.status === 0) {
        dirty.current = true; // kept, and written as soon as the server is back
        setTimeout(() => again.current(), 3_000);
      } else if (problem instanceof Problem) {
        latest.current = wishOf(view.current);
        setWish(latest.current);
      }
    } finally {
      work.current = null;
      setBusy(false);
    }
    return answer;
  }, [bench.id, key, queries]);

  useEffect(() => {
    again.current = () => {
      if (dirty.current) work.current ??= write();
    };
    return () => {
      again.current = () => undefined;
    };
  }, [write]);

  const want = useCallback(
    (next: Wish) => {
      latest.current = next;
      setWish(next);
      dirty.current = true;
      work.current ??= new Promise((done) => setTimeout(() => done(write()), 60));
    },
    [write],
  );

  const setChanges = useCallback(
    (changes: Change[]) => {
      const replaced = latest.current.changes;
      setPast((before) => [...before.slice(-99), replaced]);
      setFuture([]);
      want({ ...latest.current, changes });
    },
    [want],
  );

  const change = useCallback(
    (added: Change[]) => {
      const kept = latest.current.changes.filter(
        (one) => !added.some((other) => other.name === one.name && other.place === one.place),
      );
      const real = added.filter((one) => bookedValue(bench, one.name, one.place) !== one.new);
      setChanges([...kept, ...real]);
    },
    [bench, setChanges],
  );
  const remove = useCallback(
    (lines: { name: NumberName; place: string }[]) =>
      setChanges(
        latest.current.changes.filter(
          (one) => !lines.some((line) => line.name === one.name && line.place === one.place),
        ),
      ),
    [setChanges],
  );
  const undo = useCallback(() => {
    const before = past.at(-1);
    if (!before) return;
    setPast(past.slice(0, -1));
    setFuture([...future, latest.current.changes]);
    want({ ...latest.current, changes: before });
  }, [past, future, want]);
  const redo = useCallback(() => {
    const after = future.at(-1);
    if (!after) return;
    setFuture(future.slice(0, -1));
    setPast([...past, latest.current.changes]);
    want({ ...latest.current, changes: after });
  }, [past, future, want]);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.closest('input,textarea');
      if (typing || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      event.preventDefault();
      if (event.shiftKey) redo();
      else undo();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [undo, redo]);

  const value = useMemo<Slip>(
    () => ({
      view: bench.slip,
      wish,
      busy,
      error,
      change,
      remove,
      clear: () => setChanges([]),
      words: (words) => want({ ...latest.current, ...words }),
      undo,
      redo,
      canUndo: past.length > 0,
      canRedo: future.length > 0,
      settled: async () => (work.current ? await work.current : view.current),
      reset: () => {
        setPast([]);
        setFuture([]);
        setError(null);
      },
    }),
    [bench.slip, wish, busy, error, change, remove, setChanges, want, undo, redo, past, future],
  );
  return <Context value={value}>{children}</Context>;
}

/** The booked value of a set number at a place. */
export function bookedValue(bench: BenchData, name: NumberName, place: string): unknown {
  const places = placesOf(bench.setup[name]?.length ?? 0);
  return bench.setup[name]?.[places.indexOf(place)];
}

export function placesOf(count: number): string[] {
  if (count === 4) return ['LF', 'RF', 'LR', 'RR'];
  return count === 2 ? ['front', 'rear'] : ['car'];
}

/** What a set number is with the slip applied, and whether the slip moves it. */
export function settingNow(
  bench: BenchData,
  wish: { changes: Change[] },
  name: NumberName,
  place: string,
): { value: string | number; booked: string | number; drafted: boolean } {
  const booked = bookedValue(bench, name, place) as string | number;
  const line = wish.changes.find((one) => one.name === name && one.place === place);
  return { value: line ? line.new : booked, booked, drafted: line !== undefined };
}
