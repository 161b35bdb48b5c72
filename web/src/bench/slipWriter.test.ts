import { afterEach, describe, expect, it, vi } from 'vitest';
import { Problem, type Schemas } from '../lib/client';
import type { SlipAction, Wish } from './slipState';
import { SlipWriter, type SlipNews } from './slipWriter';

type View = Schemas['SlipView'];

const EMPTY = { lines: [], jobs: [], why: '', expectation: '', session_id: null };
const draft = (version: number, holes: number[] = []) =>
  ({
    ...EMPTY,
    version,
    lines: holes.map((hole) => ({ name: 'bar_hole', place: 'front', old: 2, new: hole })),
  }) as unknown as View;
const hole = (to: number, place = 'front'): SlipAction => ({
  type: 'change',
  changes: [{ name: 'bar_hole', place, new: to }],
  booked: () => 2,
});
const conflict = () => new Problem(409, 'conflict', 'Somebody was first.');

/** A writer over a server that answers in turn: a view, or a problem it throws. */
function writerOver(...answers: (View | Problem)[]) {
  const sent: (Wish & { version: number })[] = [];
  const news: Partial<SlipNews>[] = [];
  const shown: [View, boolean][] = [];
  const last: unknown[] = [];
  const other = { view: draft(7, [5]), held: false };
  const writer = new SlipWriter(
    draft(1),
    {
      put: (body) => {
        sent.push(body);
        const answer = answers.shift() ?? draft(body.version + 1);
        return answer instanceof Problem ? Promise.reject(answer) : Promise.resolve(answer);
      },
      theirs: () => Promise.resolve(other.view),
      putLast: (body) => last.push(body),
      hold: () => other.held,
      show: (view, held) => shown.push([view, held]),
    },
    (more) => news.push(more),
  );
  const told = () => Object.assign({}, ...news) as SlipNews;
  return { writer, sent, told, shown, last, other };
}

const holes = (body: Wish | undefined) => body?.changes.map((one) => one.new);

afterEach(() => vi.useRealTimers());

describe('writing the slip', () => {
  it('writes several wishes of one press once, the newest winning', async () => {
    const { writer, sent, shown, told } = writerOver(draft(2, [4]));
    writer.want(hole(3));
    writer.want(hole(4));
    expect((await writer.settled())?.version).toBe(2);
    expect(sent.map(holes)).toEqual([[4]]);
    expect(sent[0]?.version).toBe(1);
    expect(shown).toEqual([[draft(2, [4]), false]]);
    expect(told().busy).toBe(false);
  });
  it('writes nothing where nothing changed', async () => {
    const { writer, sent } = writerOver();
    writer.want({ type: 'undo' });
    expect((await writer.settled())?.version).toBe(1);
    expect(sent).toEqual([]);
  });
  it('writes what was wanted during a write after it, on its version', async () => {
    const { writer, sent } = writerOver(draft(2, [3]), draft(3, [4]));
    writer.want(hole(3));
    await Promise.resolve();
    writer.want(hole(4));
    await writer.settled();
    expect(sent.map((body) => [body.version, holes(body)])).toEqual([
      [1, [3]],
      [2, [4]],
    ]);
  });
  it('says that answers were held back', async () => {
    const { writer, shown, other } = writerOver();
    other.held = true;
    writer.want(hole(3));
    await writer.settled();
    expect(shown[0]?.[1]).toBe(true);
  });
  it('takes the server’s draft over only where nothing of ours waits', async () => {
    const { writer } = writerOver();
    writer.adopt(draft(4, [6]));
    expect(holes(writer.state.wish)).toEqual([6]);
    writer.want(hole(3));
    writer.adopt(draft(5, [1]));
    expect(holes(writer.state.wish)).toEqual([3]);
    await writer.settled();
  });
});

describe('another window', () => {
  it('is merged row by row and written on its version', async () => {
    const { writer, sent, told } = writerOver(conflict(), draft(8));
    writer.want(hole(3, 'rear'));
    await writer.settled();
    expect(sent.map((body) => body.version)).toEqual([1, 7]);
    expect(holes(sent[1])).toEqual([5, 3]);
    expect(told().clash).toBeUndefined();
  });
  it('that touched the same row wins, and ours is told', async () => {
    const { writer, sent, told } = writerOver(conflict());
    writer.want(hole(3));
    await writer.settled();
    expect(sent).toHaveLength(1); // nothing of ours is left to write
    expect(told().clash?.clashes).toMatchObject([{ place: 'front', ours: { new: 3 } }]);
  });
  it('that is first again and again is told in the end', async () => {
    const { writer, sent, told } = writerOver(...Array.from({ length: 6 }, conflict));
    writer.want(hole(3, 'rear'));
    expect(await writer.settled()).toBeNull();
    expect(sent).toHaveLength(6);
    expect(told().error).toBe('Somebody was first.');
  });
});

describe('a refusal', () => {
  it('puts the draft back as it is kept', async () => {
    const { writer, told } = writerOver(new Problem(422, 'out_of_range', 'No hole 9.'));
    writer.want(hole(9));
    expect(await writer.settled()).toBeNull();
    expect(told().error).toBe('No hole 9.');
    expect(holes(writer.state.wish)).toEqual([]);
  });
  it('by a server that is away keeps the wish and writes it later', async () => {
    vi.useFakeTimers();
    const { writer, sent, told } = writerOver(new Problem(503, 'busy', 'Come back.'));
    writer.want(hole(3));
    expect(await writer.settled()).toBeNull();
    expect(holes(writer.state.wish)).toEqual([3]);
    await vi.advanceTimersByTimeAsync(3_000);
    expect(sent.map(holes)).toEqual([[3], [3]]);
    expect(told().error).toBeNull();
  });
  it('is not tried again once the page is gone', async () => {
    vi.useFakeTimers();
    const { writer, sent } = writerOver(new Problem(0, 'offline', 'Away.'));
    writer.want(hole(3));
    await writer.settled();
    writer.stop();
    await vi.advanceTimersByTimeAsync(9_000);
    expect(sent).toHaveLength(1);
  });
  it('of what is on its way keeps a booking back', async () => {
    const { writer } = writerOver();
    writer.await(Promise.reject(new Error('no')));
    expect(await writer.settled()).toBeNull();
    writer.await(Promise.resolve());
    expect((await writer.settled())?.version).toBe(1);
  });
});

describe('leaving the page', () => {
  it('writes what waits, once', () => {
    const { writer, last } = writerOver();
    writer.leave();
    expect(last).toEqual([]);
    writer.want(hole(3));
    writer.leave();
    expect(last).toMatchObject([{ version: 1, changes: [{ new: 3 }] }]);
  });
  it('forgets the way back once the slip is booked', async () => {
    const { writer, told } = writerOver();
    writer.want(hole(3));
    await writer.settled();
    expect(told().state.past).toHaveLength(1);
    writer.reset();
    expect(told().state.past).toEqual([]);
    expect(told().clash).toBeNull();
  });
});
