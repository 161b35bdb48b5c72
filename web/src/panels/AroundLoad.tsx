/** Around one load: the balance over speed, and the limit over braking and driving. */
import { useQuery } from '@tanstack/react-query';
import { useBench } from '../bench/bench';
import type { Schemas } from '../lib/client';
import type { Shown } from '../lib/format';
import { aroundLoadQuery, type LoadAsked } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { Plot } from '../ui/Plot';
import type { Line } from '../ui/plotValues';

type Around = Schemas['AroundView'];
const IN_G: Shown = { symbol: 'g', factor: 1, offset: 0, precision: 0.001 };

interface Props {
  asked: LoadAsked;
  speed: number;
  along: number;
}

export function AroundLoad({ asked, speed, along }: Props) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const acceleration = dictionary.shown('acceleration', bench.profile);
  const found = useQuery({
    ...aroundLoadQuery(bench.id, asked),
    placeholderData: (before) => before,
  });
  const told = found.data;
  if (!told?.booked) return null;
  const lines = (
    x: (one: Around) => number[],
    y: (one: Around) => (number | null)[],
    label: string,
  ) =>
    [told.booked, told.drafted].flatMap((one, i) =>
      one ? [lineOf(x(one), y(one), label, i === 1)] : [],
    );
  return (
    <div className="around-load">
      <Plot
        label="Grip balance over speed"
        x={{ name: 'Speed', shown: dictionary.shown('speed', bench.profile), here: speed }}
        y={{ name: 'Grip balance, below 0 the front slides first', shown: IN_G }}
        lines={lines(
          (one) => one.speeds,
          (one) => one.balance,
          'grip balance',
        )}
      />
      <Plot
        label="Cornering limit over braking and driving"
        x={{ name: 'Braking − to + driving', shown: acceleration, here: along }}
        y={{ name: 'Cornering limit', shown: acceleration }}
        lines={lines(
          (one) => one.along,
          (one) => one.sideways,
          'cornering limit',
        )}
      />
    </div>
  );
}

function lineOf(x: number[], y: (number | null)[], label: string, drafted: boolean): Line {
  return {
    label,
    drafted,
    order: 0,
    points: x.flatMap((at, i) => {
      const value = y[i];
      return value === null || value === undefined ? [] : [[at, value] as [number, number]];
    }),
  };
}
