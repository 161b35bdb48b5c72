/** Tables out and in: CSV files that a spreadsheet reads as they stand, rows pasted from one. */
import Papa from 'papaparse';

/** What a spreadsheet would take for a formula; figures with a sign stay figures. */
const FORMULA = /^(?![+-]?[\d.,]+(?: ?[^\d=+\-@()]*)?$)[=+\-@\t\r]/;

/** A table as a CSV file: semicolons between, as the app's other files; formulas marked as words. */
export function csvOf(rows: readonly (readonly string[])[]): string {
  return Papa.unparse(
    rows.map((row) => [...row]),
    { delimiter: ';', newline: '\r\n', escapeFormulae: FORMULA },
  );
}

/** A table of the page as CSV: what stands in its cells, a chosen option by its name. */
export function csvOfTable(table: HTMLTableElement): string {
  return csvOf([...table.rows].map((row) => [...row.cells].map(wordsOf)));
}

function wordsOf(cell: HTMLTableCellElement): string {
  const field = cell.querySelector<HTMLInputElement | HTMLSelectElement>('input, select');
  if (field) return 'options' in field ? (field.selectedOptions.item(0)?.text ?? '') : field.value;
  const copy = cell.cloneNode(true) as HTMLElement;
  copy.querySelectorAll('button, svg').forEach((one) => one.remove());
  return copy.textContent.replaceAll(/\s+/g, ' ').trim();
}

/**
 * Rows pasted from a spreadsheet into fields of these places, units of a heading put behind the figures.
 * Null for what is no table; a sentence for one whose columns are not these places.
 */
export function pastedRows(
  text: string,
  places: string[],
): Record<string, string>[] | string | null {
  const first = text.split(/\r?\n/).find((line) => line.trim());
  const delimiter = ['\t', ';', '|'].find((one) => first?.includes(one));
  if (!delimiter || places.length < 2) return null;
  const { data } = Papa.parse<string[]>(text, { delimiter, skipEmptyLines: 'greedy' });
  const cells = data.map((row) => row.map((cell) => cell.trim()));
  const heads = (cells[0] ?? []).map((cell) =>
    /^([A-Za-z ]+?)\s*(?:[[(]([^\])]+)[\])])?$/.exec(cell),
  );
  const headed = heads.every((one) => one !== null);
  const order = headed
    ? heads.map(
        (one) => places.find((place) => place.toLowerCase() === one[1]?.toLowerCase()) ?? '',
      )
    : places;
  const rows = headed ? cells.slice(1) : cells;
  if (order.length !== places.length || order.includes('') || new Set(order).size !== order.length)
    return `The columns are to be ${places.join(', ')}.`;
  const uneven = rows.findIndex((row) => row.length !== places.length);
  if (uneven >= 0)
    return `Row ${uneven + 1} has ${rows[uneven]?.length ?? 0} figures and needs ${places.length}: ${places.join(', ')}.`;
  return rows.map((row) =>
    Object.fromEntries(
      order.map((place, i) => {
        const unit = headed ? heads[i]?.[2] : undefined;
        const cell = row[i] ?? '';
        return [place, unit && cell && !/[a-z]/i.test(cell) ? `${cell} ${unit}` : cell];
      }),
    ),
  );
}
