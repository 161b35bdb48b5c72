/** How a reading stands, and taking it again or withdrawing it. */
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { useBench, useSaved } from '../bench/bench';
import { Limits } from '../bench/Limits';
import { useUnderstood } from '../bench/understood';
import { useWay, type Value } from '../bench/ways';
import { api, type NumberName, type Schemas } from '../lib/client';
import { showValue, type Shown } from '../lib/format';
import { useMay } from '../lib/me';
import { readingsQuery } from '../lib/queries';
import { useDictionary, whereWords } from '../lib/vocabulary';
import { OneLine } from '../ui/form';
import { Notice, StatusMark } from '../ui/marks';
import { Moment } from '../ui/states';
import { ReadingForm } from './ReadingForm';

export function ReadingPanel({ kind }: { kind: string }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const row = dictionary.reading(kind);
  const may = useMay(row?.ability ?? 'read');
  const [open, setOpen] = useState(false);
  const standing = bench.standings.find((one) => one.kind === kind);
  const station = dictionary.data.stations.find((one) => one.readings.includes(kind));
  const { understood, understand, problem } = useUnderstood(station);
  if (!row || !standing) return null;
  const reading = standing.reading;
  return (
    <section className="reading-panel" id={kind}>
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
            <span className="visually-hidden"> {row.label}</span>
          </Button>
        )}
      </div>
      <HowItStands standing={standing} />
      {reading && <ReadValues reading={reading} />}
      {standing.kept.length > 0 && <Kept kept={standing.kept} />}
      {bench.better
        .filter((one) => one.kind === kind)
        .map((one) => (
          <MeasuredBetter key={one.fact} better={one} />
        ))}
      {reading?.note && <p className="note">“{reading.note}”</p>}
      {open && !understood && (
        <div className="caution-first" role="group" aria-label="Before you start">
          <Notice>{station?.caution}</Notice>
          {problem && <p role="alert">{problem.detail}</p>}
          <Button variant="dark" onClick={understand}>
            Understood
          </Button>
          <Button variant="link" onClick={() => setOpen(false)}>
            Cancel
          </Button>
        </div>
      )}
      {open && understood && <ReadingForm kind={kind} done={() => setOpen(false)} />}
      <History kind={kind} />
    </section>
  );
}

/** Why a reading stands as it does. */
function HowItStands({ standing }: { standing: Schemas['StandingView'] }) {
  return (
    <>
      {standing.decides && (
        <p className="hint">
          <b>{standing.runs_since} runs since: look again.</b> {standing.decides}
        </p>
      )}
      <Limits of={(one) => one.kind === standing.kind} />
      {standing.differs.length > 0 && (
        <div role="alert">
          <ul className="differs">
            {standing.differs.map((one) => (
              <Differs key={one.name + one.place} found={one} />
            ))}
          </ul>
        </div>
      )}
      {standing.reasons.length > 0 && (
        <ul className="reasons">
          {distinct(standing.reasons).map((reason) => (
            <li key={`${reason.revision ?? ''}${reason.why}`}>
              {reason.revision !== null && <b>revision {reason.revision}: </b>}
              {reason.why}
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

/** Each reason once, though several changes of one revision gave it. */
function distinct(reasons: Schemas['ReasonView'][]): Schemas['ReasonView'][] {
  const key = (one: Schemas['ReasonView']) => `${one.revision ?? ''} ${one.why}`;
  return reasons.filter((one, i) => reasons.findIndex((each) => key(each) === key(one)) === i);
}

function Differs({ found }: { found: Schemas['DifferView'] }) {
  const dictionary = useDictionary();
  const entry = dictionary.entry(found.name);
  const way = useWay(entry.checks as NumberName, found.place);
  const say = (value: Value) => `${way.show(value)} ${way.unit}`.trim();
  return (
    <li>
      <StatusMark status="void" /> {whereWords(entry.label, [found.place])}:{' '}
      <b>{say(found.found)}</b>, booked {say(found.booked)}
    </li>
  );
}

const told = (row: (number | null)[] | undefined, shown: Shown) =>
  row?.map((si) => (si === null ? '–' : showValue(si, shown))).join(' · ');

/** A fact that this reading tells, offered in the place of what is given: with its ± and where it is from. */
function MeasuredBetter({ better }: { better: Schemas['BetterView'] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const may = useMay('give');
  const entry = dictionary.entry(better.fact);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const given = bench.given[better.fact];
  const ofPart = entry.kind === 'set'; // what a part says is corrected in the inventory
  const take = api.useMutation('patch', '/api/cars/{car_id}/given', useSaved());
  // a car may write its ratios the other way up: so are they told here
  const upside = entry.accepts_inverse && bench.ratio_is === 'wheel_per_spring';
  const up = (si: number | null) => (si !== null && upside ? 1 / si : si);
  const within = better.within.flatMap((one, i) => {
    const value = better.values[i] ?? null;
    if (one === null || value === null) return [];
    return [upside ? one / value ** 2 : one];
  });
  const send = (confirmed: boolean) =>
    take.mutate({
      params: { path: { car_id: bench.id } },
      body: {
        values: { [better.fact]: better.values.map((one, i) => one ?? given?.values[i] ?? null) },
        source: { [better.fact]: better.source },
        seen: { [better.fact]: given?.values ?? null },
        confirmed,
      },
    });
  const lacks = better.lacks.map((one) => dictionary.entry(one).label.toLowerCase()).join(', ');
  const estimates = lacks && `${lacks} ${better.lacks.length === 1 ? 'is' : 'are'} only estimated`;
  if (better.refused)
    return (
      <Notice>
        {entry.label} cannot be told from this. {better.refused}
        {estimates && ` But ${estimates}.`}
      </Notice>
    );
  return (
    <p className="measured-better">
      <b>
        {entry.label} from this: {told(better.values.map(up), shown)} {shown.symbol}
      </b>
      {within.length > 0 && ` ± ${showValue(Math.max(...within), shown)}`}
      <small>
        {ofPart && `, by the inventory ${told(bench.figures[better.fact]?.values ?? [], shown)}`}
        {!ofPart &&
          (given
            ? `, given ${told(given.values.map(up), shown)}${given.estimated.some(Boolean) ? ', an estimate' : ''}`
            : ', not given yet')}
      </small>{' '}
      {estimates && <span>It is no measurement yet: {estimates}.</span>}
      {may && better.lacks.length === 0 && ofPart && (
        <Link to={`/cars/${bench.id}/parts`}>Correct it in the inventory</Link>
      )}
      {may && better.lacks.length === 0 && !ofPart && (
        <Button
          variant="outline-dark"
          size="sm"
          disabled={take.isPending}
          onClick={() => send(take.error?.asksToConfirm ?? false)}
        >
          {take.error?.asksToConfirm ? 'Take it anyway' : 'Take it as measured better'}
          <span className="visually-hidden"> for {entry.label}</span>
        </Button>
      )}
      {take.error && <span role="alert">{take.error.detail}</span>}
    </p>
  );
}

/** What earlier readings still tell of places that the latest left out, each with its own standing. */
function Kept({ kept }: { kept: Schemas['KeptView'][] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  return (
    <ul className="kept-values">
      {kept.flatMap((one) =>
        (Object.keys(one.values) as NumberName[]).map((name) => {
          const entry = dictionary.entry(name);
          const shown = dictionary.shown(entry.quantity, bench.profile);
          return (
            <li key={`${one.at}${name}`}>
              <StatusMark status={one.status} /> {entry.label}{' '}
              <b>{told(one.values[name], shown)}</b> <small>{shown.symbol}</small>, kept from{' '}
              <Moment at={one.at} by={one.by} />, revision {one.revision}
            </li>
          );
        }),
      )}
    </ul>
  );
}

/** What a reading said: each number at its places, the spread of its repeats, how it was taken. */
function ReadValues({ reading }: { reading: Schemas['ReadingView'] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const order = dictionary.reading(reading.kind)?.numbers ?? [];
  const names = order.filter((one) => one in reading.values);
  const { taken } = reading;
  const how = [
    taken.instrument,
    taken.place && `at ${taken.place}`,
    taken.by_eye && 'by eye',
    taken.stage && `${taken.stage} the work`,
  ].filter(Boolean);
  if (names.length === 0 && how.length === 0) return null;
  return (
    <dl className="read-values">
      {names.map((name) => {
        const entry = dictionary.entry(name);
        const shown = dictionary.shown(entry.quantity, bench.profile);
        const repeats = reading.repeats[name]?.length ?? 1;
        const zero = taken.zero[name];
        return (
          <div key={name}>
            <dt>{entry.label}</dt>
            <dd>
              {told(reading.values[name], shown)} <small>{shown.symbol}</small>
              {repeats > 1 && (
                <small>
                  {' '}
                  mean of {repeats}, spread{' '}
                  {reading.spread[name]
                    ?.map((si) => showValue(si - shown.offset / shown.factor, shown))
                    .join(' · ')}
                </small>
              )}
              {zero !== undefined && zero !== 0 && (
                <small> zero of {showValue(zero, shown)} taken off</small>
              )}
            </dd>
          </div>
        );
      })}
      {how.length > 0 && (
        <div>
          <dt>Taken</dt>
          <dd>{how.join(', ')}</dd>
        </div>
      )}
    </dl>
  );
}

function History({ kind }: { kind: string }) {
  const { bench } = useBench();
  const found = useQuery(readingsQuery(bench.id, kind));
  const rows = found.data?.readings ?? [];
  if (rows.length === 0) return null;
  return (
    <details className="history">
      <summary>
        All readings <small>{found.data?.count}</small>
      </summary>
      <ul>
        {rows.map((one) => (
          <Past key={one.id} reading={one} />
        ))}
        {rows.length < (found.data?.count ?? 0) && (
          <li className="hint">Older ones are in the car file.</li>
        )}
      </ul>
    </details>
  );
}

function Past({ reading }: { reading: Schemas['ReadingView'] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const may = useMay('read');
  const [asking, setAsking] = useState(false);
  const withdraw = api.useMutation(
    'post',
    '/api/cars/{car_id}/readings/{reading_id}/withdraw',
    useSaved(() => setAsking(false)),
  );
  const gone = reading.withdrawn_at !== null;
  return (
    <li className={gone ? 'is-withdrawn' : undefined}>
      <ReadValues reading={reading} />
      <span>
        <Moment at={reading.at} by={reading.by} />, revision {reading.revision}
      </span>
      {reading.unmet.length > 0 && (
        <small>
          not ticked:{' '}
          {reading.unmet
            .map((one) => dictionary.data.conditions.find((c) => c.id === one)?.label.toLowerCase())
            .join(', ')}
        </small>
      )}
      {reading.note && <small>“{reading.note}”</small>}
      {gone && (
        <small>
          withdrawn by {reading.withdrawn_by}: {reading.withdrawn_why}
        </small>
      )}
      {may && !gone && !asking && (
        <button type="button" className="quiet" onClick={() => setAsking(true)}>
          Withdraw
        </button>
      )}
      {asking && (
        <OneLine
          label="Why it is withdrawn"
          placeholder="Why?"
          act="Withdraw"
          className="withdraw"
          save={withdraw}
          send={(why) =>
            withdraw.mutate({
              params: { path: { car_id: bench.id, reading_id: reading.id } },
              body: { why },
            })
          }
          done={() => setAsking(false)}
        />
      )}
    </li>
  );
}
