/** A table as a CSV file: semicolons between, as the app's other files. */
export function csvOf(rows: readonly (readonly string[])[]): string {
  return rows
    .map((row) =>
      row
        .map(asText)
        .map((cell) => (/[;"\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell)),
    )
    .map((row) => row.join(';'))
    .join('\r\n');
}

/** Words that a spreadsheet would take for a formula, marked as words; figures with a sign stay figures. */
function asText(cell: string): string {
  const formula = /^[=+\-@\t\r]/.test(cell) && !/^[+-]?[\d.,]+( ?[^\d=+\-@()]*)?$/.test(cell);
  return formula ? `'${cell}` : cell;
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
  const lines = text.split(/\r?\n/).filter((line) => line.trim());
  const separator = ['\t', ';', '|'].find((one) => lines[0]?.includes(one));
  if (!separator || places.length < 2) return null;
  const cells = lines.map((line) => line.split(separator).map((cell) => cell.trim()));
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
