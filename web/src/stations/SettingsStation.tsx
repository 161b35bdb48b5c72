/** A station of settings and checks: steppers in their places, readings with how they stand. */
import type { ReactNode } from 'react';
import type { NumberName, Schemas } from '../lib/client';
import { useBench } from '../bench/bench';
import { CarPlan } from '../drawings/CarPlan';
import { Figure } from '../bench/Figure';
import { PairingSwitch } from '../bench/pairing';
import { Stepper } from '../bench/Stepper';
import { useDictionary } from '../lib/vocabulary';
import { Corners } from '../panels/Corners';
import { ReadingPanel } from '../panels/ReadingPanel';

export function SettingsStation({ station }: { station: Schemas['StationEntry'] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const sets = station.sets.filter((name) => bench.setup[name]);
  const read = station.readings.flatMap((kind) => dictionary.reading(kind)?.numbers ?? []);
  const shapeOf = (name: NumberName) => dictionary.entry(name).shape;
  const shown = station.shows.filter((name) => bench.figures[name]);
  const atCorners: NumberName[] = [...read, ...sets, ...shown].filter(
    (name) => shapeOf(name) === 'corner',
  );
  const worked = shown.filter((name) => shapeOf(name) !== 'corner');
  const elsewhere = sets.filter((name) => shapeOf(name) !== 'corner');
  const readings = station.readings.filter((kind) =>
    bench.standings.some((one) => one.kind === kind),
  );
  return (
    <>
      {atCorners.length > 0 && (
        <>
          <Corners
            middle={<CarPlan />}
            corner={(place) =>
              atCorners.map((name) => (
                <div className="row-line" key={name}>
                  <span>{dictionary.entry(name).label}</span>
                  {dictionary.entry(name).on_slip ? (
                    <Stepper name={name} place={place} />
                  ) : (
                    <Figure name={name} place={place} />
                  )}
                </div>
              ))
            }
          />
          {sets.length > elsewhere.length && <PairingSwitch />}
        </>
      )}
      <Rows names={elsewhere} cell={(name, place) => <Stepper name={name} place={place} />} />
      <Rows names={worked} cell={(name, place) => <Figure name={name} place={place} />} />
      {station.sets.length > 0 && sets.length === 0 && (
        <p className="hint">This car has no adjuster here.</p>
      )}
      {readings.map((kind) => (
        <ReadingPanel key={kind} kind={kind} />
      ))}
    </>
  );
}

/** One line for each place of each number, its sign beside the label. */
function Rows(props: {
  names: NumberName[];
  cell: (name: NumberName, place: string) => ReactNode;
}) {
  const dictionary = useDictionary();
  if (props.names.length === 0) return null;
  return (
    <div className="row-block">
      {props.names.flatMap((name) =>
        dictionary.places(name).map((place) => (
          <div className="row-line" key={name + place}>
            <span>
              {dictionary.entry(name).label}
              {place !== 'car' && `, ${place}`}
              <small>{dictionary.entry(name).sign}</small>
            </span>
            {props.cell(name, place)}
          </div>
        )),
      )}
    </div>
  );
}
