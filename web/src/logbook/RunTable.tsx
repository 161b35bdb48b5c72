/** Runs from a timing sheet or a spreadsheet: pasted, its columns matched, looked at, then logged at once. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Table from 'react-bootstrap/Table';
import { useBench, useSaved } from '../bench/bench';
import { api, type Schemas } from '../lib/client';
import { Notice } from '../ui/marks';
import { WideTable } from '../ui/WideTable';

const SHOWN = 6;

export function RunTable({ session, done }: { session: number; done: () => void }) {
  const { bench } = useBench();
  const [text, setText] = useState('');
  const look = api.useMutation('post', '/api/cars/{car_id}/run-table');
  const take = api.useMutation(
    'post',
    '/api/cars/{car_id}/sessions/{session_id}/run-table/take',
    useSaved(done),
  );
  const ask = (columns: string[] | null) => {
    take.reset();
    look.mutate({ params: { path: { car_id: bench.id } }, body: { text, columns } });
  };
  const found = look.data;
  const problem = look.error ?? take.error;
  return (
    <form
      className="run-table"
      aria-label="Runs from a table"
      onSubmit={(event) => {
        event.preventDefault();
        ask(null);
      }}
    >
      <label htmlFor={`run-table-${session}`}>
        Paste a table with its headings, such as Driver; Best lap; Tyres
      </label>
      <textarea
        id={`run-table-${session}`}
        rows={5}
        value={text}
        onChange={(event) => {
          look.reset();
          setText(event.target.value);
        }}
      />
      <div className="form-acts">
        <Button type="submit" variant="outline-dark" disabled={!text.trim() || look.isPending}>
          Preview
        </Button>
        <Button variant="link" onClick={done}>
          Cancel
        </Button>
      </div>
      {problem && (
        <Notice tone="draft">
          {problem.errors.length > 0
            ? problem.errors.map((one) => one.detail).join(' ')
            : problem.detail}
        </Notice>
      )}
      {found && (
        <>
          <FoundRuns found={found} ask={ask} />
          {found.problems.length === 0 && (
            <LogThem
              count={found.runs}
              busy={take.isPending}
              log={(released_why) =>
                take.mutate({
                  params: { path: { car_id: bench.id, session_id: session } },
                  body: { text, columns: found.columns, released_why },
                })
              }
            />
          )}
        </>
      )}
    </form>
  );
}

interface LogProps {
  count: number;
  busy: boolean;
  log: (releasedWhy: string) => void;
}

/** Log what was found; with the reason where the car is not ready to run. */
function LogThem({ count, busy, log }: LogProps) {
  const { bench } = useBench();
  const [why, setWhy] = useState('');
  return (
    <>
      {bench.not_ready.length > 0 && (
        <label className="cell">
          The car is not ready to run. Let out all the same, because
          <input
            className="text-input"
            value={why}
            onChange={(event) => setWhy(event.target.value)}
          />
        </label>
      )}
      <Button variant="dark" disabled={busy || count === 0} onClick={() => log(why)}>
        Log {count === 1 ? '1 run' : `${count} runs`}
      </Button>
    </>
  );
}

interface FoundProps {
  found: Schemas['RunTableView'];
  /** Read the table anew with its columns matched like this. */
  ask: (columns: string[]) => void;
}

/** The table as it would be logged: what each column is, the first rows, what is not usable. */
function FoundRuns({ found, ask }: FoundProps) {
  return (
    <>
      <WideTable label="The table as it will be logged">
        <Table size="sm">
          <thead>
            <tr>
              {found.headings.map((heading, i) => (
                <th key={heading} scope="col">
                  {heading}
                  <select
                    aria-label={`What “${heading}” is`}
                    value={found.columns[i] ?? ''}
                    onChange={(event) => ask(found.columns.with(i, event.target.value))}
                  >
                    <option value="">leave out</option>
                    {found.fields.map((one) => (
                      <option key={one.id} value={one.id}>
                        {one.label}
                      </option>
                    ))}
                  </select>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.rows.slice(0, SHOWN).map((row, i) => (
              <tr key={i}>
                {row.map((cell, at) => (
                  <td key={at}>{cell}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </Table>
      </WideTable>
      {found.rows.length > SHOWN && <p className="hint">and {found.rows.length - SHOWN} more</p>}
      {found.problems.map((said) => (
        <Notice key={said} tone="draft">
          {said}
        </Notice>
      ))}
    </>
  );
}
