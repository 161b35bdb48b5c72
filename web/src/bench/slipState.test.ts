import { describe, expect, it } from 'vitest';
import {
  changesOf,
  mergeWishes,
  slipReducer,
  type Change,
  type SlipAction,
  type SlipState,
} from './slipState';

const EMPTY: SlipState = {
  wish: { changes: [], jobs: [], why: '', expectation: '', session_id: null },
  past: [],
  future: [],
};
const hole = (place: string, to: number): Change => ({ name: 'bar_hole', place, new: to });
const put = (...changes: Change[]): SlipAction => ({ type: 'change', changes, booked: () => 2 });
const run = (...actions: SlipAction[]) => actions.reduce(slipReducer, EMPTY);

describe('the slip in hand', () => {
  it('holds the newest value of a place', () => {
    expect(run(put(hole('front', 3)), put(hole('front', 4))).wish.changes).toEqual([
      hole('front', 4),
    ]);
  });
  it('takes a line off that goes back to what is booked', () => {
    expect(run(put(hole('front', 3)), put(hole('front', 2))).wish.changes).toEqual([]);
  });
  it('undoes and redoes step by step, jobs included', () => {
    const there = run(put(hole('front', 3)), { type: 'job', id: 'drop_link', done: true });
    const back = slipReducer(there, { type: 'undo' });
    expect(back.wish).toMatchObject({ changes: [hole('front', 3)], jobs: [] });
    expect(slipReducer(back, { type: 'redo' }).wish.jobs).toEqual(['drop_link']);
  });
  it('forgets the way forth once another change is made', () => {
    const state = run(put(hole('front', 3)), { type: 'undo' }, put(hole('rear', 4)));
    expect(slipReducer(state, { type: 'redo' })).toBe(state);
  });
  it('undoes nothing where nothing was done', () => {
    expect(slipReducer(EMPTY, { type: 'undo' })).toBe(EMPTY);
  });
  it('keeps words out of what undo takes back', () => {
    const state = run(
      put(hole('front', 3)),
      { type: 'words', words: { why: 'Pushes.' } },
      { type: 'undo' },
    );
    expect(state.wish).toMatchObject({ changes: [], why: 'Pushes.' });
  });
  it('clears all and can bring it back', () => {
    const state = run(put(hole('front', 3), hole('rear', 4)), { type: 'clear' });
    expect(state.wish.changes).toEqual([]);
    expect(slipReducer(state, { type: 'undo' }).wish.changes).toHaveLength(2);
  });
  it('remembers a hundred steps, no more', () => {
    const many = Array.from({ length: 130 }, (_, i) => put(hole('front', 3 + i)));
    expect(run(...many).past).toHaveLength(100);
  });
  it('takes the server’s draft and keeps its history', () => {
    const wish = { ...EMPTY.wish, changes: [hole('rear', 5)] };
    const state = run(put(hole('front', 3)), { type: 'adopt', wish });
    expect(state.wish).toBe(wish);
    expect(state.past).toHaveLength(1);
  });
});

describe('a slip that two windows wrote', () => {
  const wish = (changes: Change[], more: Partial<SlipState['wish']> = {}) => ({
    ...EMPTY.wish,
    changes,
    ...more,
  });
  const base = wish([hole('front', 3)], { jobs: ['drop_link'], why: 'Pushes.' });
  it('has the rows that either touched', () => {
    const ours = { ...base, changes: [hole('front', 3), hole('rear', 4)] };
    const theirs = wish([], { jobs: ['drop_link', 'bleed'], why: 'Pushes on exit.' });
    const merged = mergeWishes(base, ours, theirs);
    expect(merged.wish).toMatchObject({
      changes: [hole('rear', 4)],
      jobs: ['drop_link', 'bleed'],
      why: 'Pushes on exit.',
    });
    expect(merged.clashes).toEqual([]);
  });
  it('keeps what was wanted here where both put a row elsewhere', () => {
    const merged = mergeWishes(base, wish([hole('front', 5)]), wish([hole('front', 4)]));
    expect(merged.wish).toMatchObject({ changes: [hole('front', 4)], jobs: [] });
    expect(merged.clashes).toMatchObject([{ theirs: hole('front', 4), ours: hole('front', 5) }]);
  });
  it('tells where a row was taken off there and moved here', () => {
    const merged = mergeWishes(base, wish([hole('front', 5)]), wish([]));
    expect(merged.wish.changes).toEqual([]);
    expect(merged.clashes).toMatchObject([{ theirs: null, ours: hole('front', 5) }]);
    const off = mergeWishes(base, wish([]), wish([hole('front', 5)]));
    expect(off.wish.changes).toEqual([hole('front', 5)]);
    expect(off.clashes).toMatchObject([{ place: 'front', theirs: hole('front', 5), ours: null }]);
  });
  it('undoes what was done here and nothing that the other did', () => {
    const mine = run(put(hole('front', 3)));
    const both = { ...EMPTY.wish, changes: [hole('front', 3), hole('rear', 5)] };
    const state = slipReducer(mine, { type: 'adopt', wish: both });
    const back = slipReducer(state, { type: 'undo' });
    expect(back.wish.changes).toEqual([hole('rear', 5)]);
    expect(slipReducer(back, { type: 'redo' }).wish.changes).toHaveLength(2);
  });
  it('lets words typed here stand, and tells the others', () => {
    const merged = mergeWishes(base, { ...base, why: 'Loose.' }, { ...base, why: 'Tight.' });
    expect(merged.wish.why).toBe('Loose.');
    expect(merged.words).toEqual([{ field: 'why', theirs: 'Tight.' }]);
  });
});

describe('lines of the server', () => {
  it('are the changes a slip takes, without what they were before', () => {
    const line = { name: 'bar_hole', place: 'front', old: 2, new: 3 } as const;
    expect(changesOf([line])).toEqual([hole('front', 3)]);
    expect(changesOf([])).toEqual([]);
  });
});
