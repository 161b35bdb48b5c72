/** One station of the route: its head, its caution, and the panels that its table names. */
import { useEffect } from 'react';
import { Link, useLocation, useParams } from 'react-router';
import { stationStatus, useBench } from '../bench/bench';
import { Limits } from '../bench/Limits';
import type { NumberName, Schemas } from '../lib/client';
import { showValue } from '../lib/format';
import { PLACE_WORDS, useDictionary } from '../lib/vocabulary';
import { Panel } from '../panels/Panels';
import { Notice } from '../ui/marks';
import { Empty } from '../ui/states';

export function Station() {
  const { station: id } = useParams();
  const { hash } = useLocation();
  const { bench } = useBench();
  const dictionary = useDictionary();
  useEffect(() => {
    if (hash)
      document
        .getElementById(decodeURIComponent(hash.slice(1)))
        ?.scrollIntoView({ block: 'center' });
  }, [hash, id]);
  const stations = dictionary.stationsFor(bench);
  const at = stations.findIndex((one) => one.id === id);
  const station = stations[at];
  if (!station)
    return (
      <Empty title="This car has no such station.">
        <Link to={`/cars/${bench.id}/plan`}>Go to the car in plan</Link>
      </Empty>
    );
  const next = stations[at + 1];
  return (
    <article className={`station station-${station.id}`}>
      <div className="sheet-head">
        <h1>{station.label}</h1>
        <p>{station.about}</p>
      </div>
      {station.caution && <Notice>{station.caution}</Notice>}
      <Limits of={(one) => one.station === station.id && !station.readings.includes(one.kind)} />
      <HeldBy earlier={stations.slice(0, at)} />
      <HowItIsDone station={station.id} />
      {station.panel.map(
        (panel, i) =>
          shownOn(panel, bench) && (
            <Panel key={`${station.id}-${i}`} station={station} panel={panel} />
          ),
      )}
      <OftenSaid station={station.id} />
      {next && (
        <p className="onward">
          <Link to={`/cars/${bench.id}/${next.id}`}>Next: {next.label} →</Link>
        </p>
      )}
    </article>
  );
}

/** Whether a panel is for cars of this discipline and rear layout. */
function shownOn(
  panel: Pick<Schemas['PanelEntry'], 'disciplines' | 'layouts'>,
  car: { discipline: string; rear_layout: string },
): boolean {
  return (
    (panel.disciplines.length === 0 || panel.disciplines.includes(car.discipline)) &&
    (panel.layouts.length === 0 || panel.layouts.includes(car.rear_layout))
  );
}

/** The steps that every order of work for this car does here; where schools differ, both. */
function HowItIsDone({ station }: { station: string }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const orders = dictionary.data.procedures.flatMap((one) => {
    const steps = one.steps.filter((step) => step.station === station);
    return one.disciplines.includes(bench.discipline) && steps.length > 0 ? [{ one, steps }] : [];
  });
  if (orders.length === 0) return null;
  return (
    <details className="how-done">
      <summary>How it is done</summary>
      {orders.map(({ one, steps }) => (
        <section key={one.id} aria-label={one.label}>
          {orders.length > 1 && (
            <h3>
              {one.label} {one.school && <small>{one.school}</small>}
            </h3>
          )}
          <ol>
            {steps.map((step) => (
              <li key={step.label} value={one.steps.indexOf(step) + 1}>
                <b>{step.label}.</b> {step.do}
              </li>
            ))}
          </ol>
        </section>
      ))}
    </details>
  );
}

/** Where shop talk and mechanics part: both, with this car's own numbers. */
function OftenSaid({ station }: { station: string }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const talk = dictionary.data.talk.filter((one) => one.station === station && shownOn(one, bench));
  if (talk.length === 0) return null;
  return (
    <details className="often-said">
      <summary>Often said, and what holds</summary>
      {talk.map((one) => (
        <section key={one.said}>
          <blockquote>{one.said}</blockquote>
          <p>{one.holds}</p>
          <ul className="lines">
            {one.shows
              .filter((name) => bench.figures[name]?.values)
              .map((name) => (
                <OnThisCar key={name} name={name} />
              ))}
          </ul>
        </section>
      ))}
    </details>
  );
}

/** A figure of this car, alike places in one. */
function OnThisCar({ name }: { name: NumberName }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const values = (bench.figures[name]?.values ?? []).map((one) =>
    one === null ? '–' : showValue(one, shown),
  );
  const alike = new Set(values).size === 1;
  const places = dictionary.places(name);
  return (
    <li>
      <span>{entry.label}</span>
      <b>
        {alike
          ? values[0]
          : values
              .map((one, i) => `${PLACE_WORDS[places[i] ?? ''] ?? ''} ${one}`.trim())
              .join(', ')}{' '}
        <small>{shown.symbol}</small>
      </b>
    </li>
  );
}

/** Earlier jobs that do not count: what is done here may have to be done again after them. */
function HeldBy({ earlier }: { earlier: Schemas['StationEntry'][] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const open = earlier.flatMap((station) => {
    const status = stationStatus(
      bench,
      station.readings,
      (kind) => dictionary.reading(kind)?.when_needed ?? false,
    );
    return status === 'fresh' || status === null ? [] : [{ station, status }];
  });
  if (open.length === 0) return null;
  return (
    <p className="hint held-by">
      Before this:{' '}
      {open.map(({ station, status }, i) => (
        <span key={station.id}>
          {i > 0 && ', '}
          <Link to={`/cars/${bench.id}/${station.id}`}>{station.label}</Link>{' '}
          <small className={`word-${status}`}>{status}</small>
        </span>
      ))}
      . What you do here may have to be done again after.
    </p>
  );
}
