/** What a wide table stands in: it scrolls by itself, by keys too, and can be taken along as a CSV file. */
import { useRef, type ReactNode } from 'react';
import { csvOfTable } from '../lib/csv';

export function WideTable({ label, children }: { label: string; children: ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  const save = () => {
    const table = box.current?.querySelector('table');
    if (!table) return;
    const file = new Blob(['\ufeff', csvOfTable(table)], { type: 'text/csv' });
    const link = document.createElement('a');
    link.href = URL.createObjectURL(file);
    link.download = `${label.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')}.csv`;
    link.click();
    URL.revokeObjectURL(link.href);
  };
  return (
    <>
      <div ref={box} className="wide-table" role="group" aria-label={label} tabIndex={0}>
        {children}
      </div>
      <button type="button" className="quiet table-csv" onClick={save}>
        CSV<span className="visually-hidden"> of {label.toLowerCase()}</span>
      </button>
    </>
  );
}
