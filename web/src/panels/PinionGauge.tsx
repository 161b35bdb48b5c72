/** The pinion angle from two gauge readings: each with the way it points, drawn, and taken into the reading. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { pinionAngle, slopeOf, type GaugeRead } from '../lib/gauge';
import { Pick } from '../ui/fields';

const STATES = [
  ['pinion_angle', 'at ride height'],
  ['pinion_angle_hanging', 'axle hanging'],
] as const;
type State = (typeof STATES)[number][0];
const NOTHING: GaugeRead = { degrees: '', rises: true };
/** A degree is drawn as so many. */
const DRAWN = 4;

export function PinionGauge({ take }: { take: (name: State, degrees: string) => void }) {
  const [state, setState] = useState<State>('pinion_angle');
  const [pinion, setPinion] = useState<GaugeRead>({ ...NOTHING, rises: false });
  const [shaft, setShaft] = useState<GaugeRead>(NOTHING);
  const angle = pinionAngle(pinion, shaft);
  const unread = [pinion, shaft].some((one) => one.degrees.trim() && slopeOf(one) === null);
  return (
    <fieldset className="pinion-gauge">
      <legend>From two gauge readings</legend>
      <p className="hint">
        Zero the gauge on the floor along the car. Type degrees as it shows them, and which way it
        points.
      </p>
      <Pick legend="Taken" options={STATES} value={state} set={setState} />
      <div className="gauge-reads">
        <OneRead
          id="gauge-pinion"
          label="Pinion"
          read={pinion}
          set={setPinion}
          ways={['nose up', 'nose down']}
        />
        <OneRead
          id="gauge-shaft"
          label="Shaft"
          read={shaft}
          set={setShaft}
          ways={['rises to the front', 'falls to the front']}
        />
        <Drawn pinion={slopeOf(pinion) ?? 0} shaft={slopeOf(shaft) ?? 0} />
      </div>
      {unread && (
        <p className="field-said" role="alert">
          Type the degrees without a sign, up to 45: the way it points is chosen beside them.
        </p>
      )}
      {angle !== null && (
        <p>
          Pinion angle <b>{String(angle).replace('-', '−')}°</b>,{' '}
          {angle < 0
            ? 'nose down against the shaft'
            : angle > 0
              ? 'nose up against the shaft'
              : 'in line with the shaft'}
          .{' '}
          <Button variant="outline-dark" size="sm" onClick={() => take(state, `${angle}°`)}>
            Take this
          </Button>
        </p>
      )}
    </fieldset>
  );
}

interface OneReadProps {
  id: string;
  label: string;
  read: GaugeRead;
  set: (read: GaugeRead) => void;
  ways: readonly [up: string, down: string];
}

function OneRead({ id, label, read, set, ways }: OneReadProps) {
  return (
    <div className="gauge-read">
      <label htmlFor={id}>{label}</label>
      <span className="given-box">
        <input
          id={id}
          inputMode="decimal"
          autoComplete="off"
          value={read.degrees}
          onChange={(event) => set({ ...read, degrees: event.target.value })}
        />
        <small>°</small>
      </span>
      <Pick
        legend={`${label} points`}
        options={[
          ['up', ways[0]],
          ['down', ways[1]],
        ]}
        value={read.rises ? 'up' : 'down'}
        set={(way: 'up' | 'down') => set({ ...read, rises: way === 'up' })}
      />
    </div>
  );
}

/** Pinion and shaft from the side, nose to the right, their slopes overdrawn. */
function Drawn({ pinion, shaft }: { pinion: number; shaft: number }) {
  return (
    <svg viewBox="-70 -50 200 100" className="gauge-drawn" aria-hidden="true">
      <path className="level" d="M-70 0H130" />
      <g transform={`rotate(${-shaft * DRAWN})`}>
        <path className="shaft" d="M0 0H116" />
      </g>
      <g transform={`rotate(${-pinion * DRAWN})`}>
        <path className="pinion" d="M-56 -16H-30V-7H0V7H-30V16H-56Z" />
        <path className="axis" d="M-64 0H40" />
      </g>
      <circle r="5" className="joint" />
      <text x="-66" y="46">
        ×{DRAWN}
      </text>
    </svg>
  );
}
