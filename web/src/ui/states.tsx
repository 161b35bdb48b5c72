/** Waiting, failing and having nothing yet: never a blank screen. */
import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';

export function Waiting({ what }: { what: string }) {
  return (
    <div className="state" role="status">
      <span className="waiting-line" aria-hidden="true" />
      {what} …
    </div>
  );
}

export function Failed({ error, again }: { error: Error; again?: () => void }) {
  return (
    <div className="state" role="alert">
      <p>{error.message}</p>
      {again && (
        <Button variant="outline-dark" onClick={again}>
          Try again
        </Button>
      )}{' '}
      <Link to="/">Back to the garage</Link>
    </div>
  );
}

export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="empty">
      <strong>{title}</strong>
      <div>{children}</div>
    </div>
  );
}

export function Moment({ at, by }: { at: string; by?: string }) {
  const when = new Date(at);
  const text = when.toLocaleString('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  });
  return (
    <span className="moment">
      <time dateTime={at}>{text}</time>
      {by ? `, ${by}` : ''}
    </span>
  );
}
