/** A small table to type in, row by row; a paste of several cells fills it from where it is pasted. */
import { useId } from 'react';

interface Props {
  label: string;
  columns: { label: string; unit: string }[];
  rows: string[][];
  set: (rows: string[][]) => void;
  /** What is wrong, by “row.column”. */
  problems: Record<string, string>;
}

export function TableField({ label, columns, rows, set, problems }: Props) {
  const id = useId();
  const shown = [...rows, columns.map(() => '')];
  const put = (row: number, column: number, value: string) => {
    const next = shown.map((cells) => [...cells]);
    const cells = next[row];
    if (cells) cells[column] = value;
    set(trimmed(next));
  };
  const paste = (row: number, column: number, text: string) => {
    const lines = text.split(/\r?\n/).filter((line) => line.trim());
    if (lines.length < 2 && !text.includes('\t')) return false;
    const next = shown.map((cells) => [...cells]);
    lines.forEach((line, i) => {
      const cells = (next[row + i] ??= columns.map(() => ''));
      line.split('\t').forEach((cell, j) => {
        if (column + j < columns.length) cells[column + j] = cell.trim();
      });
    });
    set(trimmed(next));
    return true;
  };
  const said = Object.values(problems);
  return (
    <div className="table-field">
      <table aria-label={label} aria-describedby={`${id}-said`}>
        <thead>
          <tr>
            {columns.map((column) => (
              <th key={column.label} scope="col">
                {column.label} {column.unit && <small>{column.unit}</small>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {shown.map((cells, row) => (
            <tr key={row}>
              {columns.map((column, at) => (
                <td key={column.label}>
                  <input
                    inputMode="decimal"
                    autoComplete="off"
                    aria-label={`${column.label}, row ${row + 1}`}
                    aria-invalid={problems[`${row}.${at}`] !== undefined}
                    value={cells[at] ?? ''}
                    onChange={(event) => put(row, at, event.target.value)}
                    onPaste={(event) => {
                      if (paste(row, at, event.clipboardData.getData('text')))
                        event.preventDefault();
                    }}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <span id={`${id}-said`} className="field-said" role={said.length ? 'alert' : undefined}>
        {said.join(' ')}
      </span>
    </div>
  );
}

/** Without the empty rows at the end. */
function trimmed(rows: string[][]): string[][] {
  const last = rows.findLastIndex((cells) => cells.some((cell) => cell.trim()));
  return rows.slice(0, last + 1);
}
