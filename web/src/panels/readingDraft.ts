/** A reading that is being taken: what is typed so far. */

/** What is typed of a number in one go, by place. */
export type Cells = Record<string, string>;

export interface ReadingDraft {
  /** By number: one row of cells a repeat. */
  typed: Partial<Record<string, Cells[]>>;
  zero: Record<string, string>;
  held: Record<string, boolean>;
  instrument: string;
  place: string;
  byEye: boolean;
  stage: '' | 'before' | 'after';
  note: string;
}

export const EMPTY: ReadingDraft = {
  typed: {},
  zero: {},
  held: {},
  instrument: '',
  place: '',
  byEye: false,
  stage: '',
  note: '',
};

/** Whether anything was typed of any number. */
export const typedAny = (typed: ReadingDraft['typed']): boolean =>
  Object.values(typed)
    .flat()
    .some((cells) => Object.values(cells ?? {}).some((cell) => cell.trim()));

/** The repeats of a number as rows in the order of its places; one empty row where nothing was typed. */
export function rowsOf(cells: Cells[] | undefined, places: string[]): string[][] {
  return (cells ?? [{}]).map((row) => places.map((place) => row[place] ?? ''));
}
