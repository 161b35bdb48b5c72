/** The figures behind a plot: a table that opens, and the same as a CSV file. */
import { useState } from 'react';
import Table from 'react-bootstrap/Table';
import { csvOf } from '../lib/csv';
import { showPrecise, showValue } from '../lib/format';
import { places, valueAt, type AxisOf, type Line } from './plotValues';
import { WideTable } from './WideTable';

interface Props {
  label: string;
  x: AxisOf;
  y: AxisOf;
  lines: Line[];
}

/** So many rows are read; the file has every one. */
const READABLE = 21;

export function PlotTable({ label, x, y, lines }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <details className="plot-table" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary>Figures</summary>
      {open && <Figures label={label} x={x} y={y} lines={lines} />}
    </details>
  );
}

function Figures({ label, x, y, lines }: Props) {
  const every = places(lines);
  const by = Math.max(1, Math.ceil(every.length / READABLE));
  const named = (line: Line) => `${line.label || y.name}${line.drafted ? ' (slip)' : ''}`;
  const head = [
    `${x.name} (${x.shown.symbol})`,
    ...lines.map((one) => `${named(one)} (${y.shown.symbol})`),
  ];
  const file = csvOf([
    head,
    ...every.map((at) => [
      showPrecise(at, x.shown),
      ...lines.map((line) => {
        const value = valueAt(line.points, at);
        return value === null ? '' : showPrecise(value, y.shown);
      }),
    ]),
  ]);
  return (
    <>
      <WideTable label="Figures of the plot">
        <Table size="sm">
          <thead>
            <tr>
              {head.map((words) => (
                <th key={words} scope="col">
                  {words}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {every
              .filter((_, i) => i % by === 0 || i === every.length - 1)
              .map((at) => (
                <tr key={at}>
                  <th scope="row">{showValue(at, x.shown)}</th>
                  {lines.map((line) => {
                    const value = valueAt(line.points, at);
                    return (
                      <td key={named(line)} className={line.drafted ? 'drafted' : ''}>
                        {value === null ? '–' : showValue(value, y.shown)}
                      </td>
                    );
                  })}
                </tr>
              ))}
          </tbody>
        </Table>
      </WideTable>
      <a
        className="quiet"
        download={`${label.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')}.csv`}
        href={`data:text/csv;charset=utf-8,${encodeURIComponent(file)}`}
      >
        Save it as CSV
      </a>
    </>
  );
}
