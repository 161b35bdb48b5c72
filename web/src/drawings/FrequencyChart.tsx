/** Ride frequency against spring rate for one axle: the band shaded, the inventory marked, the target drawn. */
import { AxisBottom, AxisLeft } from '@visx/axis';
import { scaleLinear } from '@visx/scale';
import { LinePath } from '@visx/shape';
import type { Schemas } from '../lib/client';
import { bandOf, useBench } from '../bench/bench';
import { showValue } from '../lib/format';
import { useDictionary } from '../lib/vocabulary';

const W = 380;
const H = 226;
const M = { left: 40, right: 14, top: 12, bottom: 38 };

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
  const x = scaleLinear({
    domain: [rates[0] ?? 0, rates.at(-1) ?? 1],
    range: [M.left, W - M.right],
  });
  const y = scaleLinear({
    domain: [Math.min(...lows) - 0.08, Math.max(...highs) + 0.08],
    range: [H - M.bottom, M.top],
  });
  const asked = axle.wanted_rate === null ? null : toShown(axle.wanted_rate);
  const label = `${axle.axle} ride frequency against spring rate; ${points.length} springs in the inventory`;
  const askedRight = asked !== null && x(asked) > W * 0.62;
  return (
    <figure className="chart">
      <svg viewBox={`0 0 ${W} ${H}`} role="group" aria-label={label}>
        {band && (
          <rect
            className="band-area"
            x={M.left}
            width={W - M.left - M.right}
            y={y(band.high)}
            height={Math.max(0, y(band.low) - y(band.high))}
          >
            <title>{`starting band ${band.low} to ${band.high} Hz`}</title>
          </rect>
        )}
        {y.ticks(5).map((tick) => (
          <path key={tick} className="grid" d={`M${M.left} ${y(tick)}H${W - M.right}`} />
        ))}
        <AxisLeft
          scale={y}
          left={M.left}
          numTicks={5}
          hideAxisLine
          hideTicks
          tickFormat={(v) => Number(v).toFixed(1)}
          tickLabelProps={{ className: 'tick', textAnchor: 'end', dx: -4, dy: 4 }}
        />
        <AxisBottom
          scale={x}
          top={H - M.bottom}
          numTicks={5}
          hideTicks
          axisLineClassName="axis-line"
          tickLabelProps={{ className: 'tick', textAnchor: 'middle', dy: 2 }}
        />
        <text className="axis-name" x={M.left} y={H - 4}>
          ride frequency, Hz
        </text>
        <text className="axis-name" x={W - M.right} y={H - 4} textAnchor="end">
          spring rate, {rate.symbol}
        </text>
        <LinePath
          className="curve"
          data={rates.map((value, i) => [value, top[i] ?? 0] as const)}
          x={([value]) => x(value)}
          y={([, value]) => y(value)}
        />
        {asked !== null && target !== undefined && (
          <g className="asks">
            <path d={`M${M.left} ${y(target)}H${x(asked)}V${H - M.bottom}`} />
            <text
              x={x(asked) + (askedRight ? -6 : 6)}
              y={H - M.bottom - 7}
              textAnchor={askedRight ? 'end' : 'start'}
            >
              required {showValue(axle.wanted_rate ?? 0, rate)}
            </text>
          </g>
        )}
        {points.map((one) => {
          const here = fitted.includes(one.code);
          const there = drafted.includes(one.code);
          return (
            <g
              key={one.code}
              className={`stock${here ? ' is-fitted' : ''}${there ? ' is-drafted' : ''}`}
              transform={`translate(${x(toShown(one.rate))} ${y(one.frequency ?? 0)})`}
              onClick={() => choose(one.code)}
            >
              <title>{`${showValue(one.rate, rate)} ${rate.symbol} gives ${(one.frequency ?? 0).toFixed(2)} Hz`}</title>
              <circle className="reach" r="11" />
              {there ? <path d="M0 -6.5 6.5 0 0 6.5 -6.5 0Z" /> : <circle r={here ? 5.5 : 4} />}
            </g>
          );
        })}
      </svg>
    </figure>
  );
}
