/** A small table to type in, row by row; a paste of several cells fills it from where it is pasted. */
import { useId } from 'react';
import Table from 'react-bootstrap/Table';

interface Props {
  label: string;
  columns: { label: string; unit: string }[];
  rows: string[][];
  set: (rows: string[][]) => void;
  /** What is wrong, by “row.column”. */
  problems: Record<string, string>;
  /** Rows that have names are these and no more; those not asked for are not shown. */
  names?: RowName[];
}

interface RowName {
  id: string;
  label: string;
  group: string;
  shown: boolean;
}

/** A click that is counted in clicks needs no unit. */
const saysMore = ({ label, unit }: { label: string; unit: string }) =>
  unit !== '' && !unit.startsWith(label.toLowerCase());

export function TableField({ label, columns, rows, set, problems, names }: Props) {
  const id = useId();
  const shown = names ? names.map((_, i) => rows[i] ?? []) : [...rows, columns.map(() => '')];
  const trimmed = names ? (next: string[][]) => next : withoutEmptyEnd;
  // where the rows of a paste go: one after the other of those that stand there to be seen
  const order = shown.flatMap((_, i) => (names?.[i]?.shown === false ? [] : [i]));
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
    const start = order.indexOf(row);
    lines.forEach((line, i) => {
      const at = order[start + i] ?? (names ? -1 : row + i);
      if (at < 0) return;
      const cells = (next[at] ??= columns.map(() => ''));
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
      <Table size="sm" aria-label={label} aria-describedby={`${id}-said`}>
        <thead>
          <tr>
            {names && <th scope="col">Point</th>}
            {columns.map((column) => (
              <th key={column.label} scope="col">
                {column.label} {saysMore(column) && <small>{column.unit}</small>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {order.map((row, i) => (
            <tr
              key={row}
              className={names && newGroup(names, order, i) ? 'starts-group' : undefined}
            >
              {names && <th scope="row">{names[row]?.label}</th>}
              {columns.map((column, at) => (
                <td key={column.label}>
                  <input
                    inputMode="decimal"
                    autoComplete="off"
                    aria-label={`${column.label}, ${names?.[row]?.label ?? `row ${row + 1}`}`}
                    aria-invalid={problems[`${row}.${at}`] !== undefined}
                    value={shown[row]?.[at] ?? ''}
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
      </Table>
      <span id={`${id}-said`} className="field-said" role={said.length ? 'alert' : undefined}>
        {said.join(' ')}
      </span>
    </div>
  );
}

function newGroup(names: RowName[], order: number[], i: number): boolean {
  const before = order[i - 1];
  return before !== undefined && names[before]?.group !== names[order[i] ?? 0]?.group;
}

/** Without the empty rows at the end. */
function withoutEmptyEnd(rows: string[][]): string[][] {
  const last = rows.findLastIndex((cells) => cells.some((cell) => cell.trim()));
  return rows.slice(0, last + 1);
}
