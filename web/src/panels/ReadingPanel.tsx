/** How a reading stands, and taking it again or withdrawing it. */
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { ask, client, type Schemas } from '../lib/client';
import { readingsQuery } from '../lib/queries';
import { useBench } from '../bench/bench';
import { useMay } from '../lib/me';
import { Moment } from '../ui/states';
import { Notice, StatusMark } from '../ui/marks';
import { useDictionary } from '../lib/vocabulary';
import { ReadingForm, showNumber } from './ReadingForm';

export function ReadingPanel({ kind }: { kind: string }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const may = useMay('read');
  const [open, setOpen] = useState(false);
  const standing = bench.standings.find((one) => one.kind === kind);
  const row = dictionary.reading(kind);
  if (!row || !standing) return null;
  const reading = standing.reading;
  return (
    <section className="reading-panel">
      <div className="reading-head">
        <h2>
          <StatusMark status={standing.status} /> {row.label}
          <small className={`word-${standing.status}`}>{standing.status}</small>
        </h2>
        {reading ? (
          <p>
            <Moment at={reading.at} by={reading.by} />, on revision {reading.revision}
          </p>
        ) : (
          <p>Never read on this car. {row.how}</p>
        )}
        {may && !open && (
          <Button
            variant={standing.status === 'fresh' ? 'outline-dark' : 'dark'}
            onClick={() => setOpen(true)}
          >
            {row.numbers.length ? 'Read now' : 'Check now'}
          </Button>
        )}
      </div>
      {standing.reasons.length > 0 && (
        <ul className="reasons">
          {standing.reasons.map((reason) => (
            <li key={`${reason.revision ?? ''}${reason.why}`}>
              {reason.revision !== null && <b>revision {reason.revision}: </b>}
              {reason.why}
            </li>
          ))}
        </ul>
      )}
      {reading?.note && <p className="note">“{reading.note}”</p>}
      {open && <ReadingForm kind={kind} done={() => setOpen(false)} />}
      {row.numbers.length > 0 && <History kind={kind} />}
    </section>
  );
}

function History({ kind }: { kind: string }) {
  const { bench } = useBench();
  const found = useQuery(readingsQuery(bench.id));
  const rows = found.data?.readings.filter((one) => one.kind === kind) ?? [];
  if (rows.length === 0) return null;
  return (
    <details className="history">
      <summary>
        All readings <small>{rows.length}</small>
      </summary>
      <ul>
        {rows.map((one) => (
          <Past key={one.id} reading={one} />
        ))}
      </ul>
    </details>
  );
}

function Past({ reading }: { reading: Schemas['ReadingView'] }) {
  const { bench, refresh } = useBench();
  const dictionary = useDictionary();
  const may = useMay('read');
  const [why, setWhy] = useState<string | null>(null);
  const name = dictionary.reading(reading.kind)?.numbers[0];
  const withdraw = useMutation({
    mutationFn: () =>
      ask(
        client.POST('/api/cars/{car_id}/readings/{reading_id}/withdraw', {
          params: { path: { car_id: bench.id, reading_id: reading.id } },
          body: { why: why ?? '' },
        }),
      ),
    onSuccess: async () => {
      setWhy(null);
      await refresh();
    },
  });
  const gone = reading.withdrawn_at !== null;
  return (
    <li className={gone ? 'is-withdrawn' : undefined}>
      <span className="past-values">
        {name &&
          reading.values[name]
            ?.map((value) => showNumber(dictionary, bench.profile, name, value))
            .join(' · ')}
      </span>
      <span>
        <Moment at={reading.at} by={reading.by} />, revision {reading.revision}
        {name && (reading.settles[name]?.length ?? 0) > 1 && (
          <>, {reading.settles[name]?.length} settles</>
        )}
      </span>
      {reading.unmet.length > 0 && (
        <small>
          not:{' '}
          {reading.unmet
            .map((one) => dictionary.data.conditions.find((c) => c.id === one)?.label.toLowerCase())
            .join(', ')}
        </small>
      )}
      {gone && (
        <small>
          withdrawn by {reading.withdrawn_by}: {reading.withdrawn_why}
        </small>
      )}
      {may && !gone && why === null && (
        <button type="button" className="quiet" onClick={() => setWhy('')}>
          Withdraw
        </button>
      )}
      {why !== null && (
        <form
          className="withdraw"
          onSubmit={(event) => {
            event.preventDefault();
            withdraw.mutate();
          }}
        >
          <input
            autoFocus
            aria-label="Why it is withdrawn"
            placeholder="Why it is withdrawn"
            value={why}
            onChange={(event) => setWhy(event.target.value)}
          />
          <Button type="submit" size="sm" variant="dark">
            Withdraw
          </Button>
          <Button size="sm" variant="link" onClick={() => setWhy(null)}>
            Keep it
          </Button>
          {withdraw.error && <Notice tone="draft">{withdraw.error.message}</Notice>}
        </form>
      )}
    </li>
  );
}
