/** Rows of a slip that belong together, and the order of their places. */

/** Lines that say the same at several places are one row: "Spring, both rear". */
export function alike<Row>(rows: Row[], said: (row: Row) => unknown): Row[][] {
  const groups = new Map<string, Row[]>();
  for (const row of rows) {
    const key = JSON.stringify(said(row));
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  return [...groups.values()];
}

const ORDER = ['car', 'front', 'rear', 'LF', 'RF', 'LR', 'RR'];
export function placesInOrder(row: { place: string }[]): string[] {
  return row.map((one) => one.place).sort((a, b) => ORDER.indexOf(a) - ORDER.indexOf(b));
}
