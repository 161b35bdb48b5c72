/** The search over bracket holes: what is wanted, the nearest combinations, and a map of them all. */
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Table from 'react-bootstrap/Table';
import { useBench } from '../bench/bench';
import { useSlip } from '../bench/slip';
import { changesOf } from '../bench/slipState';
import { Problem, type Schemas } from '../lib/client';
import { showValue } from '../lib/format';
import { useMay } from '../lib/me';
import { holesQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { Axes, scalesOf } from '../ui/Axes';
import { Field } from '../ui/fields';
import { Notice } from '../ui/marks';
import { WideTable } from '../ui/WideTable';

type Choice = Schemas['HoleChoiceView'];
type Quantity = 'anti' | 'dimension' | 'fine_dimension' | 'angle';
const BEST = 8;
const PAPER = { width: 460, height: 260, left: 48, right: 16, top: 24, bottom: 40 };
/** An IC this far ahead is off the map [m]. */
const FAR = 6;

export function HolesPanel() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const [typed, setTyped] = useState({ anti_squat: '', ic_x: '', clear: '', nose_down: false });
  const [asked, ask] = useState<typeof typed | null>(null);
  const found = useQuery({
    ...holesQuery(bench.id, asked ?? typed),
    enabled: asked !== null,
    retry: false,
  });
  if (!bench.setup.upper_link_hole && !bench.setup.lower_link_hole) return null;
  const problem = found.error instanceof Problem ? found.error : null;
  const field = (key: 'anti_squat' | 'ic_x' | 'clear', label: string) => {
    const quantity = key === 'clear' ? 'fine_dimension' : dictionary.entry(key).quantity;
    return (
      <Field
        id={`holes-${key}`}
        field={key}
        label={label}
        unit={dictionary.shown(quantity, bench.profile).symbol}
        value={typed[key]}
        set={(value) => setTyped({ ...typed, [key]: value })}
        problem={problem}
      />
    );
  };
  return (
    <section className="question holes" aria-label="Hole search">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          ask(typed);
        }}
      >
        <h2>Hole search</h2>
        <p className="hint">
          Every combination of the holes that this car has, bar lengths re-set to keep the axle and
          the pinion where they are.
        </p>
        {field('anti_squat', 'Anti-squat wanted')}
        {field('ic_x', 'IC ahead wanted, if any')}
        {field('clear', 'Bolts above the ground in travel, at least')}
        <label className="check">
          <input
            type="checkbox"
            checked={typed.nose_down}
            onChange={(event) => setTyped({ ...typed, nose_down: event.target.checked })}
          />{' '}
          Pinion nose down through the travel
        </label>
        <Button type="submit" variant="outline-dark" disabled={!typed.anti_squat.trim()}>
          {found.isFetching ? 'Searching …' : 'Search'}
        </Button>
      </form>
      {problem && !problem.errors.some((one) => (one.number ?? '') in typed) && (
        <Notice tone="draft">{problem.detail}</Notice>
      )}
      {asked && found.data && !problem && <Found found={found.data} />}
    </section>
  );
}

function Found({ found }: { found: Schemas['HolesFound'] }) {
  const [looked, look] = useState<string | null>(null);
  const { bench } = useBench();
  const dictionary = useDictionary();
  const anti = dictionary.shown('anti', bench.profile);
  const long = dictionary.shown('dimension', bench.profile);
  const angle = dictionary.shown('angle', bench.profile);
  const low = dictionary.shown('fine_dimension', bench.profile);
  const best = found.choices.slice(0, BEST);
  const extra = found.choices.find((one) => keyOf(one) === looked && !best.includes(one));
  return (
    <>
      <p className="hint">
        {found.count} combinations
        {found.out_of_reach > 0 &&
          `, ${found.out_of_reach} of them out of reach of the links’ threads`}
        {found.too_low > 0 && `, ${found.too_low} too low through the travel`}. Holes as upper
        chassis / upper axle · lower chassis / lower axle.
      </p>
      <div className="holes-found">
        <HoleMap choices={found.choices} looked={looked} look={look} />
        <WideTable label="Nearest combinations">
          <Table size="sm">
            <thead>
              <tr>
                <th scope="col">Holes</th>
                <th scope="col">
                  Anti-squat <small>{anti.symbol}</small>
                </th>
                <th scope="col">
                  IC ahead <small>{long.symbol}</small>
                </th>
                <th scope="col">
                  Lowest bolt <small>{low.symbol}</small>
                </th>
                <th scope="col">
                  Pinion <small>{angle.symbol}</small>
                </th>
                <td />
              </tr>
            </thead>
            <tbody>
              {[...best, ...(extra ? [extra] : [])].map((one) => (
                <HoleRow key={keyOf(one)} one={one} isLooked={keyOf(one) === looked} />
              ))}
            </tbody>
          </Table>
        </WideTable>
      </div>
    </>
  );
}

function HoleRow({ one, isLooked }: { one: Choice; isLooked: boolean }) {
  const { bench } = useBench();
  const { change } = useSlip();
  const may = useMay('draft');
  const dictionary = useDictionary();
  const as = (quantity: Quantity, value: number | undefined) =>
    showValue(value ?? 0, dictionary.shown(quantity, bench.profile));
  return (
    <tr className={isLooked ? 'is-looked' : undefined}>
      <th scope="row">{keyOf(one)}</th>
      <td>
        <b>{as('anti', one.anti_squat)}</b>
      </td>
      <td>{as('dimension', one.ic_x)}</td>
      <td>{one.lowest === null ? '–' : as('fine_dimension', one.lowest)}</td>
      <td>
        {one.pinion ? `${as('angle', one.pinion[0])} to ${as('angle', one.pinion[1])}` : '–'}
        {one.pinion && (one.pinion[1] ?? 0) >= 0 && (
          <small className="word-doubtful"> nose up</small>
        )}
      </td>
      <td>
        {one.moved === 0 ? (
          <small>in use</small>
        ) : (
          may && (
            <button type="button" className="quiet" onClick={() => change(changesOf(one.lines))}>
              Put on the slip<span className="visually-hidden"> {keyOf(one)}</span>
            </button>
          )
        )}
      </td>
    </tr>
  );
}

interface MapProps {
  choices: Choice[];
  looked: string | null;
  look: (key: string) => void;
}

/** Every combination by where it puts the instant centre and what anti-squat it gives. */
function HoleMap({ choices, looked, look }: MapProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const anti = dictionary.shown('anti', bench.profile);
  const long = dictionary.shown('dimension', bench.profile);
  const near = choices.filter((one) => one.ic_x < FAR);
  if (near.length < 2) return null;
  const xs = near.map((one) => one.ic_x * long.factor);
  const ys = near.map((one) => one.anti_squat * anti.factor);
  const scales = scalesOf(
    PAPER,
    [Math.min(...xs) * 0.95, Math.max(...xs) * 1.03],
    [Math.min(0, ...ys), Math.max(...ys) * 1.06],
  );
  return (
    <figure className="chart hole-map">
      <svg
        viewBox={`0 0 ${PAPER.width} ${PAPER.height}`}
        role="group"
        aria-label="Map of all combinations"
      >
        <Axes
          paper={PAPER}
          scales={scales}
          x={`IC ahead, ${long.symbol}`}
          y={`Anti-squat, ${anti.symbol}`}
          decimals={0}
        />
        {near.toReversed().map((one) => {
          const key = keyOf(one);
          const kind = one.moved === 0 ? ' is-here' : choices.indexOf(one) < BEST ? ' is-best' : '';
          return (
            <circle
              key={key}
              className={`combination${kind}${key === looked ? ' is-looked' : ''}`}
              cx={scales.x(one.ic_x * long.factor)}
              cy={scales.y(one.anti_squat * anti.factor)}
              r={kind ? 4.5 : 2.6}
              onClick={() => look(key)}
            >
              <title>{`${key}: ${showValue(one.anti_squat, anti)} %, ${showValue(one.ic_x, long)} ${long.symbol}`}</title>
            </circle>
          );
        })}
      </svg>
      <figcaption>Filled: the nearest. Ringed: in use. Press a point to list it.</figcaption>
    </figure>
  );
}

const keyOf = (one: Choice) =>
  [one.holes.slice(0, 2), one.holes.slice(2)].map((pair) => pair.join(' / ')).join(' · ');
