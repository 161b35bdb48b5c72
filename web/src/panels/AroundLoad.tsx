/** Around one load: the balance over speed, and the limit over braking and driving. */
import { useQuery } from '@tanstack/react-query';
import { useBench } from '../bench/bench';
import type { Schemas } from '../lib/client';
import { aroundLoadQuery, type Asked } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { Plot, type Line } from '../ui/Plot';

type Around = Schemas['AroundView'];
const G = 9.80665;

interface Props {
  asked: Asked;
  speed: number;
  along: number;
}

export function AroundLoad({ asked, speed, along }: Props) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const shown = dictionary.shown('speed', bench.profile);
  const found = useQuery({
    ...aroundLoadQuery(bench.id, bench.revision, bench.slip.version, asked),
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
        x={{ name: `speed, ${shown.symbol}`, here: speed * shown.factor + shown.offset }}
        y={{ name: 'grip balance, g; below 0 the front slides first' }}
        lines={lines(
          (one) => one.speeds.map((si) => si * shown.factor + shown.offset),
          (one) => one.balance,
          'grip balance',
        )}
      />
      <Plot
        label="Cornering limit over braking and driving"
        x={{ name: 'braking − to + driving, g', here: along / G }}
        y={{ name: 'cornering limit, g' }}
        lines={lines(
          (one) => one.along.map((si) => si / G),
          (one) => one.sideways.map((si) => (si === null ? null : si / G)),
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
