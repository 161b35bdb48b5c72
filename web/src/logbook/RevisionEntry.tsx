/** A booked revision in the timeline: its lines, why, what was expected, the verdict, backing it out. */
import { useState } from 'react';
import { Link } from 'react-router';
import { api, type Schemas } from '../lib/client';
import { useBench, useSaved } from '../bench/bench';
import { FormSheet, Pick } from '../ui/fields';
import { useMay } from '../lib/me';
import { Moment } from '../ui/states';
import { Notice } from '../ui/marks';
import { useWay, type Value } from '../bench/ways';
import { useDictionary, whereWords } from '../lib/vocabulary';
import { useSlip } from '../bench/slip';
import { Outcome } from './Outcome';

const OUTCOMES = ['better', 'same', 'worse', 'not tested'] as const;
const DECISIONS = ['keep', 'back out', 'open'] as const;

export function RevisionEntry({ revision }: { revision: Schemas['RevisionView'] }) {
  const { bench, refresh } = useBench();
  const slip = useSlip();
  const dictionary = useDictionary();
  const mayDraft = useMay('draft');
  const mayJudge = useMay('judge');
  const [judging, setJudging] = useState(false);
  const [looking, setLooking] = useState(false);
  const path = { params: { path: { car_id: bench.id, number: revision.number } } };
  const after = async () => {
    slip.reset();
    await refresh();
  };
  const backOut = api.useMutation('post', '/api/cars/{car_id}/revisions/{number}/back-out', {
    onSuccess: after,
  });
  const goBack = api.useMutation('post', '/api/cars/{car_id}/revisions/{number}/go-back', {
    onSuccess: after,
  });
  const baseline = api.useMutation('put', '/api/cars/{car_id}/baseline', useSaved());
  const failed = backOut.error ?? goBack.error ?? baseline.error;
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
        {revision.why && (
          <p>
            <b>Why</b> {revision.why}
          </p>
        )}
        {revision.expectation && (
          <p>
            <b>Expected</b> {revision.expectation}
          </p>
        )}
        {revision.verdict_words && (
          <p>
            <b>Found</b> {revision.verdict_words}
          </p>
        )}
        {revision.earlier_verdicts.map((one) => (
          <p key={one.at} className="hint">
            Verdict before: {one.outcome}, {one.decision}
            {one.words && `, “${one.words}”`} <Moment at={one.at} by={one.by} />
          </p>
        ))}
        <p className="entry-acts">
          {revision.number > 1 && (
            <Link
              to={`/cars/${bench.id}/compare?left=${revision.number - 1}&right=${revision.number}`}
            >
              Compare with {revision.number - 1}
            </Link>
          )}
          {revision.lines.length > 0 && (
            <button
              type="button"
              className="quiet"
              aria-expanded={looking}
              onClick={() => setLooking(!looking)}
            >
              Result
            </button>
          )}
          {mayJudge && !judging && revision.lines.length + revision.jobs.length > 0 && (
            <button type="button" className="quiet" onClick={() => setJudging(true)}>
              {revision.outcome ? 'New verdict' : 'Verdict'}
            </button>
          )}
          {mayDraft && revision.lines.length > 0 && (
            <button
              type="button"
              className="quiet"
              title="Puts the reverse of its changes on the slip."
              disabled={backOut.isPending}
              onClick={() => backOut.mutate(path)}
            >
              Undo this revision
            </button>
          )}
          {mayDraft && revision.number < bench.revision && (
            <button
              type="button"
              className="quiet"
              title="Puts on the slip what brings the whole setup back to this revision."
              disabled={goBack.isPending}
              onClick={() => goBack.mutate(path)}
            >
              Restore this setup
            </button>
          )}
          {mayDraft && revision.number !== bench.baseline && (
            <button
              type="button"
              className="quiet"
              onClick={() =>
                baseline.mutate({
                  params: { path: { car_id: bench.id } },
                  body: { revision: revision.number },
                })
              }
            >
              Make it the baseline
            </button>
          )}
        </p>
        {(backOut.isSuccess || goBack.isSuccess) && (
          <Notice tone="plain">The way back is on the slip: look at it, then book.</Notice>
        )}
        {failed && <Notice tone="draft">{failed.message}</Notice>}
        {looking && (
          <Outcome
            revision={revision.number}
            runAgain={
              mayDraft
                ? () =>
                    goBack.mutate({
                      params: { path: { car_id: bench.id, number: revision.number - 1 } },
                    })
                : undefined
            }
          />
        )}
        {judging && <VerdictForm revision={revision.number} done={() => setJudging(false)} />}
      </div>
    </li>
  );
}

export function RevisionLines({ lines }: { lines: Schemas['LineView'][] }) {
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
  const [outcome, setOutcome] = useState<(typeof OUTCOMES)[number]>('better');
  const [decision, setDecision] = useState<(typeof DECISIONS)[number]>('keep');
  const [words, setWords] = useState('');
  const save = api.useMutation(
    'post',
    '/api/cars/{car_id}/revisions/{number}/verdict',
    useSaved(done),
  );
  const send = () =>
    save.mutate({
      params: { path: { car_id: bench.id, number: revision } },
      body: { outcome, decision, words },
    });
  return (
    <FormSheet act="Give the verdict" save={save} send={send} done={done}>
      <Pick
        legend="It was"
        options={OUTCOMES.map((one) => [one, one] as const)}
        value={outcome}
        set={setOutcome}
      />
      <Pick
        legend="We"
        options={DECISIONS.map((one) => [one, one] as const)}
        value={decision}
        set={setDecision}
      />
      <label>
        In words
        <input value={words} onChange={(event) => setWords(event.target.value)} />
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
