/** A booked revision in the timeline: its lines, why, what was expected, the verdict, backing it out. */
import { useState } from 'react';
import { Link } from 'react-router';
import { api, type Schemas } from '../lib/client';
import { useBench, useSaved } from '../bench/bench';
import { Pick } from '../ui/fields';
import { FormSheet, useApiForm } from '../ui/form';
import { useMay } from '../lib/me';
import { Moment } from '../ui/states';
import { Notice } from '../ui/marks';
import { useWay, type Value } from '../bench/ways';
import { useDictionary, whereWords } from '../lib/vocabulary';
import { useSlip } from '../bench/slip';
import { Outcome } from './Outcome';

const OUTCOMES = ['better', 'same', 'worse', 'not tested'] as const;
const DECISIONS = ['keep', 'back out', 'open'] as const;

type Revision = Schemas['RevisionView'];

export function RevisionEntry({ revision }: { revision: Revision }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const [judging, setJudging] = useState(false);
  const [looking, setLooking] = useState(false);
  const back = useWayBack(revision.number);
  return (
    <li className="entry entry-revision">
      <div className="entry-when">
        <Moment at={revision.at} by={revision.by.split(' ')[0]} />
      </div>
      <div className="entry-what">
        <h2>
          Revision {revision.number}
          {revision.number === bench.baseline && <span className="outcome">baseline</span>}
          {revision.outcome && (
            <span className={`outcome outcome-${revision.outcome.replace(' ', '-')}`}>
              {revision.outcome}
            </span>
          )}
          {revision.decision && revision.decision !== 'open' && (
            <span className="outcome">{revision.decision}</span>
          )}
        </h2>
        {revision.jobs.length > 0 && (
          <ul className="jobs-done">
            {revision.jobs.map((id) => (
              <li key={id}>{dictionary.job(id)}</li>
            ))}
          </ul>
        )}
        {revision.lines.length === 0 && revision.jobs.length === 0 ? (
          <AsFoundLines lines={revision.as_found} first={revision.number === 1} />
        ) : (
          <RevisionLines lines={revision.lines} />
        )}
        <RevisionWords revision={revision} />
        <RevisionActs
          revision={revision}
          back={back}
          looking={looking}
          look={() => setLooking(!looking)}
          judge={judging ? undefined : () => setJudging(true)}
        />
        {back.onSlip && (
          <Notice tone="plain">The way back is on the slip: look at it, then book.</Notice>
        )}
        {back.failed && <Notice tone="draft">{back.failed.message}</Notice>}
        {looking && <Outcome revision={revision.number} runAgain={back.runAgain} />}
        {judging && <VerdictForm revision={revision.number} done={() => setJudging(false)} />}
      </div>
    </li>
  );
}

/** Why it was made, what was expected and what was found. */
function RevisionWords({ revision }: { revision: Revision }) {
  const words = [
    ['Why', revision.why],
    ['Expected', revision.expectation],
    ['Found', revision.verdict_words],
  ] as const;
  return (
    <>
      {words.map(
        ([label, said]) =>
          said && (
            <p key={label}>
              <b>{label}</b> {said}
            </p>
          ),
      )}
      {revision.earlier_verdicts.map((one) => (
        <p key={one.at} className="hint">
          Verdict before: {one.outcome}, {one.decision}
          {one.words && `, “${one.words}”`} <Moment at={one.at} by={one.by} />
        </p>
      ))}
    </>
  );
}

/** The ways back from a revision, each by the slip. */
function useWayBack(number: number) {
  const { bench, refresh } = useBench();
  const slip = useSlip();
  const may = useMay('draft');
  const after = {
    onSuccess: async () => {
      slip.reset();
      await refresh();
    },
  };
  const path = (to: number) => ({ params: { path: { car_id: bench.id, number: to } } });
  const undo = api.useMutation('post', '/api/cars/{car_id}/revisions/{number}/back-out', after);
  const restore = api.useMutation('post', '/api/cars/{car_id}/revisions/{number}/go-back', after);
  const baseline = api.useMutation('put', '/api/cars/{car_id}/baseline', useSaved());
  return {
    may,
    undo: () => undo.mutate(path(number)),
    restore: () => restore.mutate(path(number)),
    runAgain: may ? () => restore.mutate(path(number - 1)) : undefined,
    makeBaseline: () =>
      baseline.mutate({ params: { path: { car_id: bench.id } }, body: { revision: number } }),
    isPending: undo.isPending || restore.isPending,
    onSlip: undo.isSuccess || restore.isSuccess,
    failed: undo.error ?? restore.error ?? baseline.error,
  };
}

interface ActsProps {
  revision: Revision;
  back: ReturnType<typeof useWayBack>;
  looking: boolean;
  look: () => void;
  /** Not while the verdict is being written. */
  judge: (() => void) | undefined;
}

function RevisionActs({ revision, back, looking, look, judge }: ActsProps) {
  const { bench } = useBench();
  const mayJudge = useMay('judge');
  const { number, lines, jobs } = revision;
  return (
    <p className="entry-acts">
      {number > 1 && (
        <Link to={`/cars/${bench.id}/compare?left=${number - 1}&right=${number}`}>
          Compare with {number - 1}
        </Link>
      )}
      {lines.length > 0 && (
        <button type="button" className="quiet" aria-expanded={looking} onClick={look}>
          Result
        </button>
      )}
      {mayJudge && judge && lines.length + jobs.length > 0 && (
        <button type="button" className="quiet" onClick={judge}>
          {revision.outcome ? 'New verdict' : 'Verdict'}
        </button>
      )}
      {back.may && lines.length > 0 && (
        <button
          type="button"
          className="quiet"
          title="Puts the reverse of its changes on the slip."
          disabled={back.isPending}
          onClick={back.undo}
        >
          Undo this revision
        </button>
      )}
      {back.may && number < bench.revision && (
        <button
          type="button"
          className="quiet"
          title="Puts on the slip what brings the whole setup back to this revision."
          disabled={back.isPending}
          onClick={back.restore}
        >
          Restore this setup
        </button>
      )}
      {back.may && number !== bench.baseline && (
        <button type="button" className="quiet" onClick={back.makeBaseline}>
          Make it the baseline
        </button>
      )}
    </p>
  );
}

function RevisionLines({ lines }: { lines: Schemas['LineView'][] }) {
  const rows = new Map<string, Schemas['LineView'][]>();
  for (const line of lines) {
    const key = JSON.stringify([line.name, line.old, line.new]);
    rows.set(key, [...(rows.get(key) ?? []), line]);
  }
  return (
    <ul className="lines">
      {[...rows.values()].map(
        (row) =>
          row[0] && <RevisionLine key={row[0].name + row[0].place} first={row[0]} row={row} />,
      )}
    </ul>
  );
}

function RevisionLine({ first, row }: { first: Schemas['LineView']; row: Schemas['LineView'][] }) {
  const dictionary = useDictionary();
  const way = useWay(first.name, first.place);
  return (
    <li>
      <span>
        {whereWords(
          dictionary.entry(first.name).label,
          row.map((one) => one.place),
        )}
      </span>
      <span className="from-to">
        {way.show(first.old as Value)} <i>→</i> <b>{way.show(first.new as Value)}</b>{' '}
        <small>{way.unit}</small>
      </span>
    </li>
  );
}

function VerdictForm({ revision, done }: { revision: number; done: () => void }) {
  const { bench } = useBench();
  const saved = useSaved(done);
  const save = api.useMutation('post', '/api/cars/{car_id}/revisions/{number}/verdict', saved);
  const form = useApiForm<Schemas['VerdictIn']>({
    id: `verdict-${revision}`,
    defaults: { outcome: 'better', decision: 'keep', words: '' },
    save,
    send: (body) => save.mutate({ params: { path: { car_id: bench.id, number: revision } }, body }),
  });
  const { outcome, decision } = form.values.watch();
  return (
    <FormSheet of={form} act="Give the verdict" done={done}>
      <Pick
        legend="It was"
        options={OUTCOMES.map((one) => [one, one] as const)}
        value={outcome}
        set={(value) => form.values.setValue('outcome', value)}
      />
      <Pick
        legend="We"
        options={DECISIONS.map((one) => [one, one] as const)}
        value={decision}
        set={(value) => form.values.setValue('decision', value)}
      />
      <label>
        In words
        <input {...form.values.register('words')} />
      </label>
    </FormSheet>
  );
}

/** What was written down as it stood on the car: no change, so nothing to judge. */
function AsFoundLines({ lines, first }: { lines: Schemas['LineView'][]; first: boolean }) {
  if (first) return <p className="hint">The first setup of this car.</p>;
  return (
    <>
      <p className="hint">Written down as found on the car, not changed.</p>
      <RevisionLines lines={lines} />
    </>
  );
}
