/** The pinion angle from two gauge readings: each with the way it points, drawn, and taken into the reading. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import { useBench } from '../bench/bench';
import { api, Problem, saidAt, type Schemas } from '../lib/client';
import { finer, showPrecise, showValue } from '../lib/format';
import { gaugeQuery, type GaugeAsked } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { Pick } from '../ui/fields';

const STATES = [
  ['pinion_angle', 'at ride height'],
  ['pinion_angle_hanging', 'axle hanging'],
] as const;
type State = (typeof STATES)[number][0];
const NOTHING: GaugeAsked = { pinion: '', pinion_rises: false, shaft: '', shaft_rises: true };
const DEGREES = 180 / Math.PI;
/** A degree is drawn as so many. */
const DRAWN = 4;

export function PinionGauge({ take }: { take: (name: State, degrees: string) => void }) {
  const { bench } = useBench();
  const [state, setState] = useState<State>('pinion_angle');
  const [asked, setAsked] = useState<GaugeAsked>(NOTHING);
  const [zeroed, setZeroed] = useState(false);
  const angle = finer(useDictionary().shown('angle', bench.profile));
  const found = useQuery({
    ...gaugeQuery(bench.id, asked),
    enabled: asked.pinion.trim() !== '' && asked.shaft.trim() !== '',
    placeholderData: keepPreviousData,
    retry: false,
  });
  const problem = found.error instanceof Problem ? found.error : null;
  const told = problem ? undefined : found.data;
  return (
    <fieldset className="pinion-gauge">
      <legend>From two gauge readings</legend>
      <p className="hint">
        Zero the gauge on the floor along the car. Type degrees as it shows them, or read a
        connected gauge, and which way it points.
      </p>
      <p>
        <GaugeButton on="floor" zero show={() => setZeroed(true)}>
          {zeroed ? 'Zeroed on the floor: again' : 'Zero on the floor'}
        </GaugeButton>
      </p>
      <Pick legend="Taken" options={STATES} value={state} set={setState} />
      <div className="gauge-reads">
        <OneRead
          field="pinion"
          label="Pinion"
          asked={asked}
          set={setAsked}
          ways={['nose up', 'nose down']}
          wrong={saidAt(problem, 'pinion') !== undefined}
        />
        <OneRead
          field="shaft"
          label="Shaft"
          asked={asked}
          set={setAsked}
          ways={['rises to the front', 'falls to the front']}
          wrong={saidAt(problem, 'shaft') !== undefined}
        />
        <Drawn pinion={told?.pinion ?? 0} shaft={told?.shaft ?? 0} />
      </div>
      {problem && (
        <p className="field-said" role="alert">
          {problem.detail}
        </p>
      )}
      {told && (
        <p>
          Pinion angle{' '}
          <b>
            {showValue(told.angle, angle)}
            {angle.symbol}
          </b>
          , {told.says}.{' '}
          <Button
            variant="outline-dark"
            size="sm"
            disabled={found.isPlaceholderData}
            onClick={() => take(state, `${showPrecise(told.angle, angle)}${angle.symbol}`)}
          >
            Take this
          </Button>
        </p>
      )}
    </fieldset>
  );
}

interface GaugeProps {
  on: Schemas['GaugeIn']['on'];
  zero?: boolean;
  show: (degrees: number) => void;
  children: ReactNode;
}

/** Reads the connected gauge where it lies now; what stands against it is said beside the button. */
function GaugeButton({ on, zero = false, show, children }: GaugeProps) {
  const { bench } = useBench();
  const read = api.useMutation('post', '/api/cars/{car_id}/instruments/gauge', {
    onSuccess: (found) => show(found.degrees),
  });
  return (
    <>
      <Button
        variant="outline-dark"
        size="sm"
        disabled={read.isPending}
        onClick={() => read.mutate({ params: { path: { car_id: bench.id } }, body: { on, zero } })}
      >
        {children}
      </Button>
      {read.error && (
        <span className="field-said" role="alert">
          {read.error.detail}
        </span>
      )}
    </>
  );
}

interface OneReadProps {
  field: 'pinion' | 'shaft';
  label: string;
  asked: GaugeAsked;
  set: (asked: GaugeAsked) => void;
  ways: readonly [up: string, down: string];
  wrong: boolean;
}

function OneRead({ field, label, asked, set, ways, wrong }: OneReadProps) {
  const id = `gauge-${field}`;
  return (
    <div className="gauge-read">
      <label htmlFor={id}>{label}</label>
      <span className="given-box">
        <input
          id={id}
          inputMode="decimal"
          autoComplete="off"
          value={asked[field]}
          aria-invalid={wrong}
          onChange={(event) => set({ ...asked, [field]: event.target.value })}
        />
        <small>°</small>
      </span>
      <GaugeButton on={field} show={(degrees) => set({ ...asked, [field]: degrees.toFixed(2) })}>
        Read<span className="visually-hidden"> {label} from the gauge</span>
      </GaugeButton>
      <Pick
        legend={`${label} points`}
        options={[
          ['up', ways[0]],
          ['down', ways[1]],
        ]}
        value={asked[`${field}_rises`] ? 'up' : 'down'}
        set={(way: 'up' | 'down') => set({ ...asked, [`${field}_rises`]: way === 'up' })}
      />
    </div>
  );
}

/** Pinion and shaft from the side, nose to the right, their slopes overdrawn. */
function Drawn({ pinion, shaft }: { pinion: number; shaft: number }) {
  return (
    <svg viewBox="-70 -50 200 100" className="gauge-drawn" aria-hidden="true">
      <path className="level" d="M-70 0H130" />
      <g transform={`rotate(${-shaft * DRAWN * DEGREES})`}>
        <path className="shaft" d="M0 0H116" />
      </g>
      <g transform={`rotate(${-pinion * DRAWN * DEGREES})`}>
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
