/** The marks: each kind and each standing has a shape of its own, the same everywhere. */
import type { ReactNode } from 'react';

export type Kind = 'given' | 'set' | 'read' | 'worked';
export type Status = 'fresh' | 'doubtful' | 'void' | 'missing';

export const KIND_WORDS: Record<Kind, string> = {
  given: 'given: a fact of the car',
  set: 'set: what we choose',
  read: 'read: what an instrument said',
  worked: 'worked: press for the working',
};
const STATUS_WORDS: Record<Status, string> = {
  fresh: 'fresh',
  doubtful: 'doubtful',
  void: 'void',
  missing: 'missing',
};

/** `silent` where the word stands elsewhere in the same label. */
export function KindMark({ kind, silent = false }: { kind: Kind; silent?: boolean }) {
  return (
    <span className={`kind kind-${kind}`} title={KIND_WORDS[kind]}>
      {!silent && <span className="visually-hidden">{kind} </span>}
      <svg viewBox="0 0 12 12" aria-hidden="true">
        {kind === 'worked' && <path d="M2 4.5h8M2 8h8" />}
        {kind === 'read' && <circle cx="6" cy="6" r="4" />}
        {kind === 'set' && <path d="M2.5 7.5 6 4l3.5 3.5" />}
        {kind === 'given' && <rect x="2.6" y="2.6" width="6.8" height="6.8" />}
      </svg>
    </span>
  );
}

export function StatusMark({ status, silent = false }: { status: Status; silent?: boolean }) {
  return (
    <span className={`status status-${status}`} title={STATUS_WORDS[status]}>
      <svg viewBox="0 0 14 14" aria-hidden="true">
        {status === 'fresh' && <circle className="solid" cx="7" cy="7" r="4.6" />}
        {status === 'doubtful' && (
          <>
            <circle cx="7" cy="7" r="4.8" />
            <path d="M3.9 10.1l6.2-6.2" />
          </>
        )}
        {status === 'void' && <path d="M3 3l8 8M11 3l-8 8" />}
        {status === 'missing' && <circle className="dotted" cx="7" cy="7" r="4.8" />}
      </svg>
      {!silent && <span className="visually-hidden">{STATUS_WORDS[status]}</span>}
    </span>
  );
}

/** A note in the stale colour, with its mark: never colour alone. */
export function Notice({
  tone = 'stale',
  children,
}: {
  tone?: 'stale' | 'draft' | 'plain';
  children: ReactNode;
}) {
  return (
    <p className={`alert notice notice-${tone}`} role={tone === 'draft' ? 'alert' : undefined}>
      {tone !== 'plain' && (
        <svg viewBox="0 0 16 16" aria-hidden="true">
          <path d="M8 2 14.5 13.5h-13z M8 6.5v3.5 M8 11.8v.2" />
        </svg>
      )}
      <span>{children}</span>
    </p>
  );
}
