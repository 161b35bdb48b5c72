/** The side view: the whole car, the bars with their holes, and what they give through the travel. */
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useBench, valueAt } from '../bench/bench';
import { Needs } from '../bench/Needs';
import { useSlip } from '../bench/slip';
import { changesOf } from '../bench/slipState';
import { Bars, WholeCar } from '../drawings/SideOn';
import type { NumberName, Schemas } from '../lib/client';
import { showValue, type Shown } from '../lib/format';
import { useMay } from '../lib/me';
import { sideViewQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { Notice } from '../ui/marks';
import { Waiting } from '../ui/states';

type Side = Schemas['SideOnView'];
type State = Schemas['SideStateView'];

export function SideViewPanel() {
  const { bench } = useBench();
  const found = useQuery(sideViewQuery(bench.id));
  if (found.isError) return <Notice>{found.error.message}</Notice>;
  if (!found.data) return <Waiting what="Drawing the side view" />;
  const { booked, drafted, missing, needs, sets } = found.data;
  return (
    <section className="side-view" aria-label="Side view">
      {needs.length > 0 ? (
        <Notice>
          The side view needs <Needs needs={needs} />.
        </Notice>
      ) : (
        missing && <p className="hint">{missing}</p>
      )}
      {booked && <Drawn booked={booked} drafted={drafted} />}
      {sets.length > 0 && <BracketSets sets={sets} />}
    </section>
  );
}

/** The sets of brackets this car has: the other one goes on the slip in one press. */
function BracketSets({ sets }: { sets: Schemas['BracketSetView'][] }) {
  const { change } = useSlip();
  const may = useMay('draft');
  return (
    <p className="bracket-sets">
      Bracket sets:{' '}
      {sets.map((one) => (
        <span key={one.name}>
          {one.fitted ? (
            <>
              <b>{one.name}</b> <small>on the car</small>
            </>
          ) : may ? (
            <Button variant="outline-dark" size="sm" onClick={() => change(changesOf(one.lines))}>
              Fit {one.name}
            </Button>
          ) : (
            one.name
          )}
        </span>
      ))}
    </p>
  );
}

function Drawn({ booked, drafted }: { booked: Side; drafted: Side | null }) {
  const { bench } = useBench();
  const { change } = useSlip();
  const may = useMay('draft');
  const dictionary = useDictionary();
  const height = dictionary.shown('height', bench.profile);
  const middle = booked.states.reduce(
    (best, one, i) =>
      Math.abs(one.travel) < Math.abs(booked.states[best]?.travel ?? 0) ? i : best,
    0,
  );
  const [chosen, setChosen] = useState<number | null>(null);
  const state = Math.min(chosen ?? middle, booked.states.length - 1);
  const now = booked.states[state];
  if (!now) return null;
  const travel = `${showValue(now.travel, height)} ${height.symbol}`;
  const movable = booked.holes.some((one) => one.setting);
  return (
    <>
      <div className="side-sheet">
        <figure>
          <WholeCar
            booked={booked}
            drafted={drafted}
            state={state}
            cgAhead={booked.wheelbase - (valueAt(bench, 'cg_behind_front') ?? booked.wheelbase / 2)}
            label={`The car from its side at travel ${travel}`}
          />
          <Bars
            booked={booked}
            drafted={drafted}
            state={state}
            label="The link bars and their holes"
            pick={
              may
                ? (setting, hole) =>
                    change([{ name: setting as NumberName, place: 'car', new: hole + 1 }])
                : undefined
            }
          />
          {booked.states.length > 1 && (
            <label className="sweep">
              <span>
                Wheel travel, + bump <b>{showValue(now.travel, height)}</b>{' '}
                <small>{height.symbol}</small>
              </span>
              <input
                type="range"
                min={0}
                max={booked.states.length - 1}
                value={state}
                aria-valuetext={travel}
                onChange={(event) => setChosen(Number(event.target.value))}
              />
            </label>
          )}
          <figcaption className="hint">
            {booked.assumed
              ? `${booked.assumed} `
              : movable
                ? 'Drag a bolt to another hole, press one, or use the arrow keys. '
                : 'Each bolt has one place here: add its bracket, with all its holes, to the inventory to try others. '}
            CG height taken ± {showValue(booked.cg_error, height)} {height.symbol}.
            {booked.short && ` Its bars reach no farther: ${booked.short}`}
          </figcaption>
        </figure>
        <Here booked={booked} drafted={drafted} state={state} />
      </div>
    </>
  );
}

/** What the bars give at the travel looked at. */
function Here({ booked, drafted, state }: { booked: Side; drafted: Side | null; state: number }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const shown = (quantity: string) => dictionary.shown(quantity, bench.profile);
  const [now, then] = [booked.states[state], drafted?.states[state]];
  if (!now) return null;
  const anti = shown('anti');
  const long = shown('dimension');
  const angle = shown('angle');
  const rows: [string, (one: State) => number | null | undefined, Shown][] = [
    ['Anti-squat', (one) => one.anti_squat, anti],
    ['IC ahead of the axle', (one) => one.centre?.[0], long],
    ['IC above the ground', (one) => one.centre?.[1], long],
    ['Pinion, − nose down', (one) => one.pinion, angle],
    ['Front joint', (one) => one.joints?.[0], angle],
    ['Rear joint', (one) => one.joints?.[1], angle],
  ];
  const band = (drafted ?? booked).band;
  return (
    <div>
      <ul className="lines side-figures">
        {rows.map(([label, of, unit]) => {
          const value = of(now);
          const after = then ? of(then) : undefined;
          if (value === null || value === undefined)
            return (
              <li key={label}>
                <span>{label}</span>
                <span className="hint">not known</span>
              </li>
            );
          const moved =
            typeof after === 'number' && showValue(after, unit) !== showValue(value, unit);
          return (
            <li key={label}>
              <span>{label}</span>
              <span className="from-to">
                <b>{showValue(value, unit)}</b>
                {moved && (
                  <>
                    {' '}
                    <i>→</i> <b className="drafted">{showValue(after, unit)}</b>
                  </>
                )}{' '}
                <small>{unit.symbol}</small>
              </span>
            </li>
          );
        })}
      </ul>
      {band && (
        <p className="hint">
          For a CG that is good to its ±, anti-squat lies between {showValue(band[0] ?? 0, anti)}{' '}
          and {showValue(band[1] ?? 0, anti)} %.
        </p>
      )}
      {(drafted ?? booked).anti_squat !== null && <RulesAndLoad booked={booked} />}
    </div>
  );
}

/** What a rule of thumb is worth on this car, and what anti-squat does not do. */
function RulesAndLoad({ booked }: { booked: Side }) {
  return (
    <>
      <p className="hint">
        Wheelbase over CG height is {booked.slim.toFixed(1)}:{' '}
        {booked.rules_agree
          ? 'rules of thumb for the IC’s length and for anti-squat agree on such a car.'
          : 'rules of thumb for the IC’s length and for anti-squat do not agree on this car; go by anti-squat.'}
      </p>
      <p className="hint">
        The load the rear gains at launch is the same at any anti-squat. It says how much of it goes
        through the bars at once, and which way the body moves.
      </p>
    </>
  );
}
