/** What a wide table stands in: it scrolls by itself, by keys too, and never widens the page. */
import type { ReactNode } from 'react';

export function WideTable({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="wide-table" role="group" aria-label={label} tabIndex={0}>
      {children}
    </div>
  );
}
