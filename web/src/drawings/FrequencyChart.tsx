/** Ride frequency against spring rate for one axle: the band shaded, the inventory marked, the target drawn. */
import { LinePath } from '@visx/shape';
import type { Schemas } from '../lib/client';
import { Axes, scalesOf } from '../ui/Axes';
import { bandOf, useBench } from '../bench/bench';
import { showValue } from '../lib/format';
import { useDictionary } from '../lib/vocabulary';

const PAPER = { width: 380, height: 226, left: 40, right: 14, top: 24, bottom: 38 };

interface Props {
  axle: Schemas['SpringsAxle'];
  fitted: string[];
  drafted: string[];
  target: number | undefined;
  choose: (code: string) => void;
}

export function FrequencyChart({ axle, fitted, drafted, target, choose }: Props) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const rate = dictionary.shown('rate', bench.profile);
  const toShown = (si: number) => si * rate.factor;
  // The bands are meant with the tyre left out: beside figures with the tyre in they would mislead.
  const band =
    axle.figure === 'target_spring_rate' ? bandOf(bench, 'axle_frequency', axle.axle) : undefined;
  const rates = axle.curve_rates.map(toShown);
  const top = axle.curve_frequencies;
  const points = axle.candidates.filter((one) => one.frequency !== null);
  if (rates.length < 2) return null;
  const lows = [...top, band?.low ?? Infinity, target ?? Infinity];
  const highs = [...top, band?.high ?? 0, target ?? 0];
  const scales = scalesOf(
    PAPER,
    [rates[0] ?? 0, rates.at(-1) ?? 1],
    [Math.min(...lows) - 0.08, Math.max(...highs) + 0.08],
  );
  const { x, y } = scales;
  const asked = axle.wanted_rate === null ? null : toShown(axle.wanted_rate);
  const label = `${axle.axle} ride frequency against spring rate; ${points.length} springs in the inventory`;
  const askedRight = asked !== null && x(asked) > PAPER.width * 0.62;
  return (
    <figure className="chart">
      <svg viewBox={`0 0 ${PAPER.width} ${PAPER.height}`} role="group" aria-label={label}>
        {band && (
          <rect
            className="band-area"
            x={PAPER.left}
            width={PAPER.width - PAPER.left - PAPER.right}
            y={y(band.high)}
            height={Math.max(0, y(band.low) - y(band.high))}
          >
            <title>{`starting band ${band.low} to ${band.high} Hz`}</title>
          </rect>
        )}
        <Axes
          paper={PAPER}
          scales={scales}
          x={`spring rate, ${rate.symbol}`}
          y="ride frequency, Hz"
          decimals={1}
        />
        <LinePath
          className="curve"
          data={rates.map((value, i) => [value, top[i] ?? 0] as const)}
          x={([value]) => x(value)}
          y={([, value]) => y(value)}
        />
        {asked !== null && target !== undefined && (
          <g className="asks">
            <path d={`M${PAPER.left} ${y(target)}H${x(asked)}V${PAPER.height - PAPER.bottom}`} />
            <text
              x={x(asked) + (askedRight ? -6 : 6)}
              y={PAPER.height - PAPER.bottom - 7}
              textAnchor={askedRight ? 'end' : 'start'}
            >
              required {showValue(axle.wanted_rate ?? 0, rate)}
            </text>
          </g>
        )}
        {points.map((one) => (
          <InStock
            key={one.code}
            one={one}
            here={fitted.includes(one.code)}
            there={drafted.includes(one.code)}
            at={`${x(toShown(one.rate))} ${y(one.frequency ?? 0)}`}
            choose={choose}
          />
        ))}
      </svg>
    </figure>
  );
}

interface StockProps {
  one: Props['axle']['candidates'][number];
  /** Whether it is fitted, and whether it is on the slip. */
  here: boolean;
  there: boolean;
  at: string;
  choose: (code: string) => void;
}

/** A spring of the inventory on the curve, and how to choose it. */
function InStock({ one, here, there, at, choose }: StockProps) {
  const { bench } = useBench();
  const rate = useDictionary().shown('rate', bench.profile);
  return (
    <g
      className={`stock${here ? ' is-fitted' : ''}${there ? ' is-drafted' : ''}`}
      transform={`translate(${at})`}
      onClick={() => choose(one.code)}
    >
      <title>{`${showValue(one.rate, rate)} ${rate.symbol} gives ${(one.frequency ?? 0).toFixed(2)} Hz`}</title>
      <circle className="reach" r="11" />
      {there ? <path d="M0 -6.5 6.5 0 0 6.5 -6.5 0Z" /> : <circle r={here ? 5.5 : 4} />}
    </g>
  );
}
