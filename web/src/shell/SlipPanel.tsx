/** The change slip: its lines, their effect, what to recheck, why; book, park, undo. */
import { useQuery } from '@tanstack/react-query';
import { useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { api, type Schemas } from '../lib/client';
import { sessionNamesQuery } from '../lib/queries';
import { useBench } from '../bench/bench';
import { useMay } from '../lib/me';
import { Notice } from '../ui/marks';
import { OtherWindow } from './OtherWindow';
import { alike, placesInOrder } from './rows';
import { Moved, Rechecks, UnknownNotice } from './SlipEffect';
import { useWay, type Value } from '../bench/ways';
import { useDictionary, whereWords } from '../lib/vocabulary';
import { bookedValue, useSlip, type Change } from '../bench/slip';

const COUNTS = ['', 'One', 'Two', 'Three', 'Four'];

export function SlipPanel() {
  const { bench, refresh } = useBench();
  const slip = useSlip();
  const may = useMay('draft');
  const [open, setOpen] = useState(false);
  const act = useSlipActs();
  const next = bench.revision + 1;
  const { view, wish } = slip;
  const count = wish.changes.length + wish.jobs.length;
  const empty = count === 0;
  if (!may) return <StillSlip />;
  return (
    <aside className={`slip${open ? ' is-open' : ''}`} aria-label="Change slip">
      <button
        type="button"
        className="slip-tab"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <b>Slip</b>
        <span>{empty ? 'no changes' : count === 1 ? '1 change' : `${count} changes`}</span>
      </button>
      <div className="slip-body">
        <div className="slip-head">
          <h2>Change slip</h2>
          <span>
            revision {view.base} → {next}
          </span>
        </div>
        {view.behind && <BehindNotice behind={view.behind} reapply={act.reapply} />}
        {view.merged && <BehindNotice behind={view.merged} />}
        {slip.error && <Notice tone="draft">{slip.error}</Notice>}
        <OtherWindow />
        {act.error && <Notice tone="draft">{act.error.message}</Notice>}
        {act.booked !== null && empty && (
          <Notice tone="plain">
            Booked as revision {act.booked}. Back it out from the logbook.{' '}
            <Link to={`/cars/${bench.id}/steps/due`}>What to read again, step by step</Link>
          </Notice>
        )}
        {empty ? (
          <p className="hint">
            Nothing on the slip. Step any setting with <kbd>+</kbd> and <kbd>−</kbd>, or press{' '}
            <kbd>/</kbd> and type <code>rear spring 70</code>.
          </p>
        ) : (
          <Changes />
        )}
        <AddJob />
        {!empty && <WhyAndWhat />}
        <Parked view={view} resume={act.resume} />
      </div>
      <div className="slip-foot">
        <UndoRedo empty={empty} />
        <Button variant="outline-dark" disabled={empty || act.busy} onClick={act.park}>
          Save for later
        </Button>
        <Button
          variant="primary"
          disabled={empty || act.busy || view.behind !== null}
          onClick={act.book}
        >
          Book revision {next}
        </Button>
      </div>
      <span className="visually-hidden" role="status">
        {slip.busy ? 'working' : ''}
        {act.booked !== null ? `Booked as revision ${act.booked}` : ''}
      </span>
      {act.error?.code === 'conflict' && (
        <button type="button" className="visually-hidden" onClick={() => void refresh()}>
          Look again
        </button>
      )}
    </aside>
  );
}

/** For whoever drafts nothing. */
function StillSlip() {
  const { bench } = useBench();
  return (
    <aside className="slip slip-still" aria-label="Change slip">
      <div className="slip-head">
        <h2>Change slip</h2>
      </div>
      <p className="hint">
        An engineer of the team drafts and books. You see revision {bench.revision}.
      </p>
    </aside>
  );
}

/** What is on the slip, what is said of it, and what it would do. */
function Changes() {
  const { view, wish } = useSlip();
  return (
    <>
      <Lines changes={wish.changes} />
      <JobsDone />
      {view.mixed.length > 0 && (
        <Notice>
          {COUNTS[view.mixed.length] ?? 'Several'} systems on one slip ({view.mixed.join(', ')}):
          you won’t know which one helped.
        </Notice>
      )}
      {view.refused.map((sentence) => (
        <Notice key={sentence}>{sentence}</Notice>
      ))}
      {view.unknown.map((one) => (
        <UnknownNotice key={one.words} one={one} />
      ))}
      {view.notes.map((said) => (
        <Notice key={said} tone="plain">
          {said}
        </Notice>
      ))}
      <Moved view={view} />
      <Rechecks view={view} />
    </>
  );
}

function UndoRedo({ empty }: { empty: boolean }) {
  const slip = useSlip();
  return (
    <div className="slip-undo">
      <button type="button" className="quiet" disabled={!slip.canUndo} onClick={slip.undo}>
        Undo
      </button>
      <button type="button" className="quiet" disabled={!slip.canRedo} onClick={slip.redo}>
        Redo
      </button>
      <button type="button" className="quiet" disabled={empty} onClick={slip.clear}>
        Clear
      </button>
    </div>
  );
}

function useSlipActs() {
  const { bench, refresh } = useBench();
  const slip = useSlip();
  const [booked, setBooked] = useState<number | null>(null);
  const path = { params: { path: { car_id: bench.id } } };
  const after = async () => {
    slip.reset();
    await refresh();
  };
  const book = api.useMutation('post', '/api/cars/{car_id}/slip/book', {
    onSuccess: async (made) => {
      // said once the bench has followed: what is changed then is a change to the new revision
      await after();
      setBooked(made.revision);
    },
    onError: () => void refresh(),
  });
  const park = api.useMutation('post', '/api/cars/{car_id}/slip/park', { onSuccess: after });
  const resume = api.useMutation('post', '/api/cars/{car_id}/slip/resume', { onSuccess: after });
  const reapply = api.useMutation('post', '/api/cars/{car_id}/slip/reapply', {
    onSuccess: async () => {
      book.reset();
      await after();
    },
  });
  // what was typed last is written first; a draft that could not be written says why on the slip
  const [waiting, start] = useTransition();
  const onceWritten = (then: (view: Schemas['SlipView']) => void) =>
    start(async () => {
      const view = await slip.settled();
      if (view) then(view);
    });
  const all = [book, park, resume, reapply];
  return {
    book: () => onceWritten((view) => book.mutate({ ...path, body: { version: view.version } })),
    park: () => onceWritten(() => park.mutate(path)),
    resume: (id: number) => resume.mutate({ ...path, body: { slip: id } }),
    reapply: () => reapply.mutate(path),
    booked,
    busy: waiting || all.some((one) => one.isPending),
    error: all.map((one) => one.error).find((one) => one !== null) ?? null,
  };
}

/** Jobs that alter no number, done with this slip: they upset readings all the same. */
function JobsDone() {
  const slip = useSlip();
  const dictionary = useDictionary();
  if (slip.wish.jobs.length === 0) return null;
  return (
    <ul className="lines">
      {slip.wish.jobs.map((id) => (
        <li key={id}>
          <span>{dictionary.job(id)}</span>
          <span className="from-to">
            <b className="drafted">done</b>
          </span>
          <button
            type="button"
            className="off"
            aria-label={`Take off the slip: ${dictionary.job(id)}`}
            onClick={() => slip.job(id, false)}
          >
            ×
          </button>
        </li>
      ))}
    </ul>
  );
}

function AddJob() {
  const slip = useSlip();
  const dictionary = useDictionary();
  const left = dictionary.data.jobs.filter((one) => !slip.wish.jobs.includes(one.id));
  return (
    <div className="add-job">
      <label htmlFor="slip-job">Other work done</label>
      <select id="slip-job" value="" onChange={(event) => slip.job(event.target.value, true)}>
        <option value="">add a job</option>
        {left.map((one) => (
          <option key={one.id} value={one.id}>
            {one.label}
          </option>
        ))}
      </select>
    </div>
  );
}

function Lines({ changes }: { changes: Change[] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const rows = alike(changes, ({ name, place, new: to }) => [
    name,
    bookedValue(bench, dictionary.places(name), name, place),
    to,
  ]);
  return (
    <ul className="lines">
      {rows.map(
        (row) => row[0] && <LineRow key={row[0].name + row[0].place} first={row[0]} row={row} />,
      )}
    </ul>
  );
}

function LineRow({ first, row }: { first: Change; row: Change[] }) {
  const { bench } = useBench();
  const { remove } = useSlip();
  const dictionary = useDictionary();
  const way = useWay(first.name, first.place);
  const label = whereWords(dictionary.entry(first.name).label, placesInOrder(row));
  const old = bookedValue(bench, dictionary.places(first.name), first.name, first.place) ?? null;
  return (
    <li>
      <span>{label}</span>
      <span className="from-to">
        {way.show(old)} <i>→</i> <b className="drafted">{way.show(first.new)}</b>{' '}
        <small>{way.unit}</small>
      </span>
      <button
        type="button"
        className="off"
        aria-label={`Take off the slip: ${label}`}
        onClick={() => remove(row)}
      >
        ×
      </button>
    </li>
  );
}

/** Words of the slip; what is typed stays, whatever another window writes meanwhile, which is told. */
function SlipWords(props: { field: 'why' | 'expectation'; label: string; placeholder: string }) {
  const { field, label, placeholder } = props;
  const slip = useSlip();
  const stands = slip.wish[field];
  const [typed, setTyped] = useState<{ text: string; began: string } | null>(null);
  const id = `slip-${field}`;
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <textarea
        id={id}
        rows={2}
        value={typed?.text ?? stands}
        placeholder={placeholder}
        onChange={(event) => setTyped({ text: event.target.value, began: typed?.began ?? stands })}
        onBlur={() => {
          if (typed && typed.text !== stands) slip.words({ [field]: typed.text });
          setTyped(null);
        }}
      />
      {typed && typed.began !== stands && (
        <small>Your other window wrote “{stands}” meanwhile.</small>
      )}
    </>
  );
}

function WhyAndWhat() {
  const slip = useSlip();
  const { bench } = useBench();
  const sessions = useQuery(sessionNamesQuery(bench.id)).data?.sessions ?? [];
  return (
    <section className="why">
      <SlipWords field="why" label="Why" placeholder="What the driver or the car said." />
      <SlipWords
        field="expectation"
        label="What we expect"
        placeholder="What should change, and by how much?"
      />
      <label htmlFor="slip-session">For session</label>
      <select
        id="slip-session"
        value={slip.wish.session_id ?? ''}
        onChange={(event) =>
          slip.words({ session_id: event.target.value ? Number(event.target.value) : null })
        }
      >
        <option value="">none</option>
        {sessions.map((session) => (
          <option key={session.id} value={session.id}>
            {session.name}, {session.event}
          </option>
        ))}
      </select>
    </section>
  );
}

/** What others booked meanwhile; with nothing to do where the slip goes on top of it as it is. */
function BehindNotice({
  behind,
  reapply,
}: {
  behind: Schemas['BehindView'];
  reapply?: () => void;
}) {
  const dictionary = useDictionary();
  const label = (one: Schemas['LineView']) =>
    whereWords(dictionary.entry(one.name).label, [one.place]);
  return (
    <section
      className={reapply ? 'behind' : 'behind is-merged'}
      role={reapply ? 'alert' : 'status'}
    >
      <b>
        {behind.by} booked revision {behind.revision} meanwhile.
      </b>
      <ul className="lines">
        {behind.lines.map((one) => (
          <TheirLine key={one.name + one.place} line={one} label={label(one)} />
        ))}
      </ul>
      {behind.overlap.length > 0 && (
        <p>
          Your slip touches the same: {behind.overlap.map(label).join('; ')}. Reapplying it keeps
          your values.
        </p>
      )}
      {reapply ? (
        <Button size="sm" variant="dark" onClick={reapply}>
          Reapply to revision {behind.revision}
        </Button>
      ) : (
        <p>Your slip touches none of it: it goes on top, and is worked so here.</p>
      )}
    </section>
  );
}

function TheirLine({ line, label }: { line: Schemas['LineView']; label: string }) {
  const way = useWay(line.name, line.place);
  return (
    <li>
      <span>{label}</span>
      <span className="from-to">
        {way.show(line.old as Value)} <i>→</i> <b>{way.show(line.new as Value)}</b>{' '}
        <small>{way.unit}</small>
      </span>
    </li>
  );
}

function Parked({ view, resume }: { view: Schemas['SlipView']; resume: (id: number) => void }) {
  const dictionary = useDictionary();
  if (view.parked.length === 0) return null;
  return (
    <section>
      <h3>Saved for later</h3>
      <ul className="parked-list">
        {view.parked.map((one) => (
          <li key={one.id}>
            <span>
              {one.why ||
                [...new Set(one.lines.map((x) => dictionary.entry(x.name).label))].join(', ')}
              <small>
                {one.lines.length} {one.lines.length === 1 ? 'line' : 'lines'}, begun on revision{' '}
                {one.base}
              </small>
            </span>
            <button type="button" className="quiet" onClick={() => resume(one.id)}>
              Resume
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
