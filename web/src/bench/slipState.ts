/** The slip in hand as plain state: what is wished for, and the way back and forth. No effects here. */
import type { NumberName, Schemas } from '../lib/client';

export interface Change {
  name: NumberName;
  place: string;
  new: string | number | null;
}

export interface Wish {
  changes: Change[];
  jobs: string[];
  why: string;
  expectation: string;
  session_id: number | null;
}

type Moves = Pick<Wish, 'changes' | 'jobs'>;

export interface SlipState {
  wish: Wish;
  past: Moves[];
  future: Moves[];
}

export type SlipAction =
  | { type: 'change'; changes: Change[]; booked: (change: Change) => unknown }
  | { type: 'remove'; lines: { name: NumberName; place: string }[] }
  | { type: 'job'; id: string; done: boolean }
  | { type: 'clear' }
  | { type: 'words'; words: Partial<Pick<Wish, 'why' | 'expectation' | 'session_id'>> }
  | { type: 'undo' }
  | { type: 'redo' }
  | { type: 'adopt'; wish: Wish }
  | { type: 'forget' };

const MOST_UNDONE = 100;

/** The changes that lines of the server's stand for, as a slip takes them. */
export function changesOf(lines: Schemas['LineView'][]): Change[] {
  return lines.map((line) => ({
    name: line.name,
    place: line.place,
    new: line.new as string | number | null,
  }));
}

export function wishOf(view: Schemas['SlipView']): Wish {
  return {
    changes: changesOf(view.lines),
    jobs: view.jobs,
    why: view.why,
    expectation: view.expectation,
    session_id: view.session_id,
  };
}

export function startOf(view: Schemas['SlipView']): SlipState {
  return { wish: wishOf(view), past: [], future: [] };
}

const same = (a: { name: string; place: string }, b: { name: string; place: string }) =>
  a.name === b.name && a.place === b.place;

/** What two windows did to one slip, row by row. */
export interface Merged {
  wish: Wish;
  /** Rows that both touched, null where taken off: theirs stands on the slip, ours is kept here. */
  clashes: { name: NumberName; place: string; theirs: Change | null; ours: Change | null }[];
  /** Words that both wrote: ours stands; theirs is told. */
  words: { field: 'why' | 'expectation'; theirs: string }[];
}

/**
 * Ours put onto what another window wrote meanwhile: `base` is the slip both began with. A row that
 * only one of them touched is as that one wants it.
 */
export function mergeWishes(base: Wish, ours: Wish, theirs: Wish): Merged {
  const at = (wish: Wish, row: { name: string; place: string }) =>
    wish.changes.find((one) => same(one, row));
  const clashes: Merged['clashes'] = [];
  const changes: Change[] = [];
  const rows = [...theirs.changes, ...ours.changes, ...base.changes];
  rows.forEach((row, i) => {
    if (rows.findIndex((one) => same(one, row)) !== i) return;
    const [before, mine, other] = [at(base, row)?.new, at(ours, row)?.new, at(theirs, row)?.new];
    const kept = mine === before ? at(theirs, row) : at(ours, row);
    if (mine === before || other === before || mine === other) {
      if (kept) changes.push(kept);
      return;
    }
    const stands = at(theirs, row);
    if (stands) changes.push(stands);
    const { name, place } = row;
    clashes.push({ name, place, theirs: stands ?? null, ours: at(ours, row) ?? null });
  });
  const jobs = new Set(theirs.jobs);
  for (const one of ours.jobs) if (!base.jobs.includes(one)) jobs.add(one);
  for (const one of base.jobs) if (!ours.jobs.includes(one)) jobs.delete(one);
  const words: Merged['words'] = [];
  const said = (field: 'why' | 'expectation') => {
    if (ours[field] === base[field]) return theirs[field];
    if (theirs[field] !== base[field] && theirs[field] !== ours[field])
      words.push({ field, theirs: theirs[field] });
    return ours[field];
  };
  return {
    wish: {
      changes,
      jobs: [...jobs],
      why: said('why'),
      expectation: said('expectation'),
      session_id: ours.session_id === base.session_id ? theirs.session_id : ours.session_id,
    },
    clashes,
    words,
  };
}

/** The next state. A change back to what is booked takes its line off. */
export function slipReducer(state: SlipState, action: SlipAction): SlipState {
  const { changes, jobs } = state.wish;
  switch (action.type) {
    case 'change': {
      const kept = changes.filter((one) => !action.changes.some((added) => same(one, added)));
      const real = action.changes.filter((one) => action.booked(one) !== one.new);
      return moved(state, { changes: [...kept, ...real], jobs });
    }
    case 'remove':
      return moved(state, {
        changes: changes.filter((one) => !action.lines.some((line) => same(one, line))),
        jobs,
      });
    case 'job': {
      const others = jobs.filter((one) => one !== action.id);
      return moved(state, { changes, jobs: action.done ? [...others, action.id] : others });
    }
    case 'clear':
      return moved(state, { changes: [], jobs: [] });
    case 'words':
      return { ...state, wish: { ...state.wish, ...action.words } };
    case 'undo': {
      const before = state.past.at(-1);
      if (!before) return state;
      return {
        wish: { ...state.wish, ...before },
        past: state.past.slice(0, -1),
        future: [...state.future, { changes, jobs }],
      };
    }
    case 'redo': {
      const after = state.future.at(-1);
      if (!after) return state;
      return {
        wish: { ...state.wish, ...after },
        past: [...state.past, { changes, jobs }],
        future: state.future.slice(0, -1),
      };
    }
    case 'adopt': {
      // the way back and forth is laid onto what another window wrote: Undo takes back none of its rows
      const onto = (moves: Moves): Moves => {
        const { wish } = mergeWishes(state.wish, { ...state.wish, ...moves }, action.wish);
        return { changes: wish.changes, jobs: wish.jobs };
      };
      const past = state.past.map(onto);
      return { wish: action.wish, past, future: state.future.map(onto) };
    }
    case 'forget':
      return { ...state, past: [], future: [] };
  }
}

function moved(state: SlipState, to: Moves): SlipState {
  const { changes, jobs } = state.wish;
  return {
    wish: { ...state.wish, ...to },
    past: [...state.past.slice(1 - MOST_UNDONE), { changes, jobs }],
    future: [],
  };
}
