/** The pads: four weights, and what follows from them at once. */
import { Link } from 'react-router';
import type { NumberName } from '../lib/client';
import { useBench } from '../bench/bench';
import { Empty } from '../ui/states';
import { CarPlan } from '../drawings/CarPlan';
import { BigFigure, Figure, FigureRow } from '../bench/Figure';
import { Corners } from '../panels/Corners';
import { ReadingPanel } from '../panels/ReadingPanel';

const ROWS: NumberName[] = ['left_share', 'balanced_cross', 'cg_behind_front', 'cg_offset'];

export function WeightsStation() {
  const { bench } = useBench();
  const read = bench.figures.pad_mass?.values;
  return (
    <>
      <ReadingPanel kind="pads" />
      {read ? (
        <>
          <div className="deciding">
            <BigFigure name="total_mass" />
            <BigFigure name="front_share" />
            <BigFigure name="cross_share" />
            <BigFigure name="cross_off_balance" />
            <BigFigure name="rear_bite" />
          </div>
          <Corners
            middle={<CarPlan />}
            corner={(place) => (
              <>
                <Figure name="pad_mass" place={place} size="big" />
                <FigureRow name="unsprung_mass" place={place} />
                <FigureRow name="sprung_mass" place={place} />
              </>
            )}
          />
          <div className="row-block">
            {ROWS.map((name) => (
              <FigureRow key={name} name={name} />
            ))}
          </div>
          <p className="hint">
            Front and left share are fixed by where mass sits: perches move only the cross.{' '}
            <Link to={`/cars/${bench.id}/plan`}>See it on the car in plan</Link>
          </p>
        </>
      ) : (
        <Empty title="The pads have not been read yet.">
          Set pressures, free the bars, put the driver in, zero the pads, roll the car on and settle
          it. Then read.
        </Empty>
      )}
    </>
  );
}
