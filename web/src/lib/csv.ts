/** A table as a CSV file: semicolons between, as the app's other files. */
export function csvOf(rows: readonly (readonly string[])[]): string {
  return rows
    .map((row) =>
      row.map((cell) => (/[;"\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell)),
    )
    .map((row) => row.join(';'))
    .join('\r\n');
}
