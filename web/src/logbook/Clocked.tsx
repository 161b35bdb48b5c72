/** What the clock wrote of a run, how far off the run before, and what it says of the launch. */
import { useBench } from '../bench/bench';
import type { Schemas } from '../lib/client';
import { showValue } from '../lib/format';
import { useDictionary } from '../lib/vocabulary';

export function lapTime(seconds: number): string {
  const minutes = Math.floor(seconds / 60);
  const rest = (seconds - minutes * 60).toFixed(2);
  return minutes ? `${minutes}:${rest.padStart(5, '0')}` : rest;
}

/** A clock's time to the thousandth. */
export function clockTime(seconds: number): string {
  return seconds < 60 ? seconds.toFixed(3) : lapTime(seconds);
}

/** A time as a person would type it again, with all its decimals. */
export function typedTime(seconds: number): string {
  if (seconds < 60) return String(Number(seconds.toFixed(6))); // a foul start lies before the light
  const minutes = Math.floor(seconds / 60);
  const rest = Number((seconds - minutes * 60).toFixed(6));
  return `${minutes}:${rest < 10 ? '0' : ''}${rest}`;
}

export function Clocked({ run }: { run: Schemas['RunView'] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  if (run.clocked.length === 0) return null;
  const shown = (quantity: 'speed' | 'acceleration' | 'altitude' | 'dimension') => {
    const unit = dictionary.shown(quantity, bench.profile);
    // a clock writes speeds finer than they are shown elsewhere
    const way = quantity === 'speed' ? { ...unit, precision: 0.1 } : unit;
    return (value: number) => `${showValue(value, way)} ${way.symbol}`;
  };
  const said = [
    run.launch !== null && `Mean ${shown('acceleration')(run.launch)} over the first 60 ft`,
    run.density_altitude !== null && `density altitude ${shown('altitude')(run.density_altitude)}`,
    run.corrected !== null && `${clockTime(run.corrected)} s in standard air`,
  ].filter(Boolean);
  return (
    <>
      <dl className="clocked">
        {run.clocked.map((one) => {
          const entry = dictionary.data.clocked.find((each) => each.id === one.id);
          const of = entry?.quantity ?? 'time';
          const told = (value: number, size: number) =>
            of === 'time' ? (size ? value.toFixed(3) : clockTime(value)) : shown(of)(value);
          return (
            <div key={one.id}>
              <dt>{entry?.label}</dt>
              <dd>
                {told(one.value, 0)}
                {one.off !== null && (
                  <small title="Against the run before">
                    {one.off < 0 ? '−' : '+'}
                    {told(Math.abs(one.off), 1)}
                  </small>
                )}
              </dd>
            </div>
          );
        })}
      </dl>
      {said.length > 0 && (
        <p
          className="clocked-says"
          title="The clock starts once the car has rolled out of the beam; a time goes with the cube root of the air's density, for an engine that breathes freely"
        >
          {said.join(' · ')}
        </p>
      )}
      {run.splits.length > 0 && (
        <details className="splits">
          <summary>Increments</summary>
          <dl className="clocked">
            {run.splits.map((one) => (
              <div key={one.label}>
                <dt>{one.label}</dt>
                <dd>
                  {clockTime(one.time)}
                  <small>mean {shown('speed')(one.mean_speed)}</small>
                </dd>
              </div>
            ))}
          </dl>
        </details>
      )}
    </>
  );
}
