/** The car from above: every corner's numbers in their places, and where the mass sits. */
import type { NumberName } from '../lib/client';
import { useBench } from '../bench/bench';
import { CarPlan } from '../drawings/CarPlan';
import { BigFigure, Figure } from '../bench/Figure';
import { PairingSwitch } from '../bench/pairing';
import { Stepper } from '../bench/Stepper';
import { axleOf, showValue, useDictionary } from '../lib/vocabulary';
import { Corners } from '../panels/Corners';

const AT_CORNER: NumberName[] = [
  'ride_height',
  'spring',
  'ride_frequency',
  'compression_clicks',
  'rebound_clicks',
  'tyre_pressure',
];

export function PlanStation() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const rows = AT_CORNER.filter(
    (name) => dictionary.entry(name).kind !== 'set' || bench.setup[name],
  );
  return (
    <>
      <Corners
        middle={<CarPlan />}
        corner={(place) => (
          <>
            <CornerWeight place={place} />
            {rows.map((name) => (
              <div className="row-line" key={name}>
                <span>{dictionary.entry(name).label}</span>
                {dictionary.entry(name).on_slip ? (
                  <Stepper name={name} place={place} />
                ) : (
                  <Figure name={name} place={place} />
                )}
              </div>
            ))}
          </>
        )}
      />
      <PairingSwitch />
      <div className="deciding">
        <BigFigure name="cross_share" />
        <BigFigure name="front_share" />
        <BigFigure name="rear_bite" />
        <BigFigure name="frequency_ratio" />
      </div>
    </>
  );
}

function CornerWeight({ place }: { place: string }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const at = dictionary.places('pad_mass').indexOf(place);
  const mass = bench.figures.pad_mass?.values?.[at];
  const total = bench.figures.total_mass?.values?.[0];
  const share = dictionary.shown('share', bench.profile);
  return (
    <div className="corner-weight">
      <Figure name="pad_mass" place={place} size="big" />
      {mass !== undefined && total !== undefined && (
        <span title={`share of the total, ${axleOf(place)}`}>
          {showValue(mass / total, share)} %
        </span>
      )}
    </div>
  );
}
