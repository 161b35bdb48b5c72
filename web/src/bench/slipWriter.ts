/**
 * Writing the slip: what is wanted shows at once and is written at the end of the press. One write goes after
 * another, the newest wish winning; what another window wrote meanwhile is merged row by row.
 */
import { Problem, type Schemas } from '../lib/client';
import {
  mergeWishes,
  slipReducer,
  startOf,
  wishOf,
  type Merged,
  type SlipAction,
  type SlipState,
  type Wish,
} from './slipState';

type View = Schemas['SlipView'];

/** How often in a row a slip is merged with what another window wrote, before that is told instead. */
const MAX_MERGES = 5;
/** How soon a wish is written again that found no server. */
const RETRY_MS = 3_000;
const OFFLINE = [0, 503];

/** The draft on the server, and what the page has of it. */
export interface SlipServer {
  put: (body: Wish & { version: number }) => Promise<View>;
  /** The draft as another window left it. */
  theirs: () => Promise<View | undefined>;
  /** Write for a page that is closed at once; nobody waits for its answer. */
  putLast: (body: Wish & { version: number }) => void;
  /** Drop answers that were asked for before a write; whether any were under way. */
  hold: () => boolean;
  /** The page has the draft as it was written; answers that were held are asked for again. */
  show: (view: View, held: boolean) => void;
}

export type Clash = Pick<Merged, 'clashes' | 'words'>;

/** What the page shows of the writing. */
export interface SlipNews {
  state: SlipState;
  busy: boolean;
  error: string | null;
  /** What another window of the same person put elsewhere meanwhile, with what was wanted here. */
  clash: Clash | null;
}

export class SlipWriter {
  state: SlipState;
  private view: View;
  private work: Promise<View | null> | null = null;
  private dirty = false;
  private awaited: Promise<unknown> | null = null;
  private retry: ReturnType<typeof setTimeout> | undefined;

  constructor(
    view: View,
    private readonly server: SlipServer,
    private readonly tell: (news: Partial<SlipNews>) => void,
  ) {
    this.view = view;
    this.state = startOf(view);
  }

  /** Take the server's draft over, unless something of ours waits to be written. */
  adopt(view: View): void {
    if (this.work || this.dirty) return;
    this.view = view;
    this.apply({ type: 'adopt', wish: wishOf(view) });
  }

  want(action: SlipAction): void {
    const before = this.state;
    // written at the end of this press, ahead of the drawing that it sets off
    this.work ??= new Promise((done) => queueMicrotask(() => done(this.write())));
    this.apply(action);
    this.dirty ||= this.state !== before;
  }

  /** Whoever books waits for this answer, too: changes that are on their way to the slip. */
  await(answer: Promise<unknown>): void {
    const over = () => {
      if (this.awaited === answer) this.awaited = null;
    };
    this.awaited = answer;
    answer.then(over, over); // a refusal is told where it was asked
  }

  /** The draft once every wish is written; null where the last one, or what was on its way, was refused. */
  async settled(): Promise<View | null> {
    const arrived = () => true;
    const refused = () => false;
    if (this.awaited && !(await this.awaited.then(arrived, refused))) return null;
    return this.work ? await this.work : this.view;
  }

  reset(): void {
    this.apply({ type: 'forget' });
    this.tell({ error: null, clash: null });
  }

  /**
   * The window is left: what waits or is under way is written at once. Only then is it asked to outlive the
   * page, which takes a browser longer. Where the one under way arrives first, this one is refused.
   */
  leave(): void {
    if (!this.dirty && !this.work) return;
    this.dirty = false;
    this.server.putLast(this.body());
  }

  stop(): void {
    clearTimeout(this.retry);
  }

  private apply(action: SlipAction): void {
    this.state = slipReducer(this.state, action);
    this.tell({ state: this.state });
  }

  private body(): Wish & { version: number } {
    return { version: this.view.version, ...this.state.wish };
  }

  private async write(): Promise<View | null> {
    if (!this.dirty) {
      this.work = null;
      return this.view;
    }
    this.tell({ busy: true });
    try {
      let held = this.server.hold();
      for (let merges = 0; this.dirty;) {
        this.dirty = false;
        if (await this.putOrMerge(merges)) merges += 1;
        this.tell({ error: null });
        held = this.server.hold() || held;
      }
      this.server.show(this.view, held);
      return this.view;
    } catch (problem) {
      this.refused(problem);
      return null;
    } finally {
      this.work = null;
      this.tell({ busy: false });
    }
  }

  /** Write once; whether another window was first and its draft was merged. Throws what else is refused. */
  private async putOrMerge(merges: number): Promise<boolean> {
    try {
      this.view = await this.server.put(this.body());
      return false;
    } catch (problem) {
      const isConflict = problem instanceof Problem && problem.status === 409;
      if (!isConflict || merges >= MAX_MERGES) throw problem;
      await this.merge();
      return true;
    }
  }

  /** Each row as the window that touched it wants it. */
  private async merge(): Promise<void> {
    const theirs = await this.server.theirs();
    if (!theirs) return;
    const merged = mergeWishes(wishOf(this.view), this.state.wish, wishOf(theirs));
    this.view = theirs;
    this.apply({ type: 'adopt', wish: merged.wish });
    this.dirty = JSON.stringify(merged.wish) !== JSON.stringify(wishOf(theirs));
    if (merged.clashes.length + merged.words.length > 0) this.tell({ clash: merged });
  }

  private refused(problem: unknown): void {
    this.tell({ error: problem instanceof Problem ? problem.detail : String(problem) });
    this.dirty = false;
    if (!(problem instanceof Problem)) return;
    if (OFFLINE.includes(problem.status)) {
      this.dirty = true; // kept, and written as soon as the server is back
      this.retry = setTimeout(() => {
        if (this.dirty) this.work ??= this.write();
      }, RETRY_MS);
    } else {
      this.apply({ type: 'adopt', wish: wishOf(this.view) });
    }
  }
}
