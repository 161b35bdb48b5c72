/** An axle worked from its points: moved by hand, its curves, and what one turn or one shim does. */
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import Table from 'react-bootstrap/Table';
import { useBench } from '../bench/bench';
import { Needs } from '../bench/Needs';
import { AxleView, type View } from '../drawings/AxleView';
import type { Schemas } from '../lib/client';
import { capital, showChange, showValue, type Shown } from '../lib/format';
import { geometryQuery, type GeometryAsked } from '../lib/queries';
import { useDictionary, type Dictionary } from '../lib/vocabulary';
import { Pick } from '../ui/fields';
import { Notice } from '../ui/marks';
import { Plot } from '../ui/Plot';
import type { Line } from '../ui/plotValues';
import { Waiting } from '../ui/states';
import type { PanelProps } from './props';
import { WideTable } from '../ui/WideTable';

type Swept = Schemas['SweptView'];
type Curve = Schemas['SidesView'];
type Over = NonNullable<GeometryAsked['over']>;
type AxleName = NonNullable<GeometryAsked['axle']>;

const OVER: Record<Over, { label: string; axis: string; quantity: string }> = {
  travel: { label: 'Travel', axis: 'Wheel travel, + bump', quantity: 'fine_dimension' },
  roll: { label: 'Roll', axis: 'Roll, + left side up', quantity: 'angle' },
  rack: { label: 'Steering', axis: 'Rack travel, + left', quantity: 'fine_dimension' },
};

const VIEWS = [
  ['behind', 'From behind'],
  ['side', 'From the left'],
] as const;
const AXLES = [
  ['front', 'Front'],
  ['rear', 'Rear'],
] as const;

export function GeometryPanel({ panel }: PanelProps) {
  const { bench } = useBench();
  const [axle, setAxle] = useState<AxleName>(panel.topic === 'rear' ? 'rear' : 'front');
  const [over, setOver] = useState<Over>('travel');
  const [chosen, setView] = useState<View | null>(null);
  const asked = { axle, over: axle === 'rear' && over === 'rack' ? ('travel' as const) : over };
  const found = useQuery({
    ...geometryQuery(bench.id, asked),
    placeholderData: (before) => before,
  });
  const told = found.data;
  if (found.isError) return <Notice>{found.error.message}</Notice>;
  if (!told) return <Waiting what="Working the geometry" />;
  const shown = told.booked ?? told.drafted;
  return (
    <section className={`geometry${found.isPlaceholderData || found.isStale ? ' is-stale' : ''}`}>
      <h2>Geometry in motion</h2>
      <div className="geometry-asks">
        {panel.topic !== 'rear' && (
          <Pick legend="Axle" options={AXLES} value={axle} set={setAxle} />
        )}
        <Pick
          legend="Through"
          options={(['travel', 'roll', 'rack'] as const)
            .filter((name) => axle === 'front' || name !== 'rack')
            .map((name) => [name, OVER[name].label] as const)}
          value={asked.over}
          set={setOver}
        />
      </div>
      {told.missing && <Notice>{told.missing}</Notice>}
      {!shown && !told.missing && <NothingYet axle={axle} needs={told.needs} />}
      {shown && !shown.measured && <FromBolts />}
      {shown && (
        <Moved
          key={`${axle}-${asked.over}-${String(shown.at[0])}`}
          booked={shown}
          drafted={told.booked ? told.drafted : null}
          over={asked.over}
          axle={axle}
          view={chosen ?? (panel.topic === 'rear' ? 'side' : 'behind')}
          setView={setView}
        />
      )}
      {told.adjustments
        .filter((one) => one.ways.length > 0)
        .map((one) => (
          <Adjustments key={one.side} side={one.side} rows={one.ways} />
        ))}
    </section>
  );
}

/** The kinds of points that make an axle, by what carries the wheels, and what its picture then gives. */
const MEASURED = {
  independent: {
    kind: 'points',
    fit: 'at both corners, at Alignment',
    gives: 'its travel, roll centre, ratios and antis',
  },
  linked: {
    kind: 'live_axle_points',
    fit: 'above',
    gives: 'its travel, roll centre, roll steer, antis and spring ratios',
  },
};

const NO_POINTS = {
  leaf: 'Leaf springs bend as they carry the axle: there are no points to work it from.',
  ladder_bar: 'Ladder bars turn with the housing: the side view above is all there is to work.',
  beam_axle: 'A front beam axle is not worked from points.',
};

function NothingYet({ axle, needs }: { axle: AxleName; needs: Schemas['NeedView'][] }) {
  const { bench } = useBench();
  const layout = axle === 'front' ? bench.front_layout : bench.rear_layout;
  if (layout === 'leaf' || layout === 'ladder_bar' || layout === 'beam_axle')
    return <p className="hint">{NO_POINTS[layout]}</p>;
  const { kind, fit, gives } = MEASURED[layout === 'independent' ? 'independent' : 'linked'];
  const made = bench.parts[kind]?.length ?? 0;
  return (
    <>
      {needs.length > 0 && (
        <Notice>
          The axle on its bars needs <Needs needs={needs} />.
        </Notice>
      )}
      <p className="hint">
        {made > 0
          ? `Fit the ${axle} suspension’s points ${fit}: ${gives} are then worked from them.`
          : `Measure the ${axle} suspension’s points once: ${gives} are then worked, not typed. `}
        {made === 0 && <Link to={`/cars/${bench.id}/parts#${kind}`}>Type or paste the points</Link>}
      </p>
    </>
  );
}

/** What the bolts alone cannot tell of a live axle, and where its points are entered. */
function FromBolts() {
  const { bench } = useBench();
  const made = bench.parts.live_axle_points?.length ?? 0;
  return (
    <p className="hint">
      Worked from the bolts, as if the bars of a parallel pair ran straight along the car and the
      track bar lay over the axle.{' '}
      {made > 0 ? (
        'Fit its measured points above for the rest.'
      ) : (
        <>
          For splayed links, a Watt’s link or the springs’ ratios,{' '}
          <Link to={`/cars/${bench.id}/parts#live_axle_points`}>type or paste its points</Link>.
        </>
      )}
    </p>
  );
}

interface MovedProps {
  booked: Swept;
  drafted: Swept | null;
  over: Over;
  axle: AxleName;
  view: View;
  setView: (view: View) => void;
}

/** The picture with its slider, the figures at that place, and the curves. */
function Moved({ booked, drafted, over, axle, view, setView }: MovedProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const [state, setState] = useState(() => nearest(booked.at, 0));
  const asked = OVER[over];
  const across = dictionary.shown(asked.quantity, bench.profile);
  const here = booked.at[state] ?? 0;
  return (
    <>
      <div className="geometry-moved">
        <figure>
          <Pick legend="Seen" options={VIEWS} value={view} set={setView} />
          <AxleView
            booked={booked}
            drafted={drafted}
            at={state}
            view={view}
            label={`The ${axle} axle from ${view === 'behind' ? 'behind' : 'the left'} at ${asked.label.toLowerCase()} ${showValue(here, across)} ${across.symbol}`}
          />
          <label className="sweep">
            <span>
              {asked.axis} <b>{showValue(here, across)}</b> <small>{across.symbol}</small>
            </span>
            <input
              type="range"
              min={0}
              max={booked.at.length - 1}
              value={state}
              aria-valuetext={`${showValue(here, across)} ${across.symbol}`}
              onChange={(event) => setState(Number(event.target.value))}
            />
          </label>
          {booked.short && (
            <figcaption className="hint">
              Its links reach no farther than this either way.
            </figcaption>
          )}
        </figure>
        <Here booked={booked} drafted={drafted} state={state} />
      </div>
      <div className="geometry-curves">
        {booked.curves
          .filter((curve) => curve.drawn)
          .map((curve) => (
            <CurvePlot
              key={curve.name}
              booked={booked}
              curve={curve}
              drafted={drafted}
              axis={asked.axis}
              x={across}
              here={here}
            />
          ))}
      </div>
    </>
  );
}

function nearest(values: number[], wanted: number): number {
  return values.reduce(
    (best, one, i) => (Math.abs(one - wanted) < Math.abs((values[best] ?? 0) - wanted) ? i : best),
    0,
  );
}

/** The figures where the slider stands, left and right. */
function Here({ booked, drafted, state }: { booked: Swept; drafted: Swept | null; state: number }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const sided = booked.curves.some((curve) => curve.right);
  return (
    <Table size="sm" className="geometry-here">
      <thead>
        <tr>
          <th scope="col">{capital(booked.kind)}</th>
          <th scope="col">{sided && 'left'}</th>
          <th scope="col">{sided && 'right'}</th>
        </tr>
      </thead>
      <tbody>
        {booked.curves.map((curve) => {
          const shown = hundredths(dictionary.shown(curve.quantity, bench.profile));
          const then = drafted?.curves.find((one) => one.name === curve.name);
          const sides = curve.right ? (['left', 'right'] as const) : (['left'] as const);
          return (
            <tr key={curve.name}>
              <th scope="row">
                {curve.label} <small>{shown.symbol}</small>
              </th>
              {sides.map((side) => (
                <td key={side} colSpan={sides.length === 1 ? 2 : 1}>
                  <FromTo now={curve[side]?.[state]} then={then?.[side]?.[state]} shown={shown} />
                </td>
              ))}
            </tr>
          );
        })}
      </tbody>
    </Table>
  );
}

interface FromToProps {
  now: number | null | undefined;
  then: number | null | undefined;
  shown: Shown;
}

function FromTo({ now, then, shown }: FromToProps) {
  const words = (one: number | null | undefined) =>
    one === null || one === undefined ? '–' : showValue(one, shown);
  return (
    <>
      <b>{words(now)}</b>
      {then !== undefined && words(then) !== words(now) && (
        <b className="drafted"> → {words(then)}</b>
      )}
    </>
  );
}

interface CurveProps {
  booked: Swept;
  drafted: Swept | null;
  curve: Curve;
  axis: string;
  x: Shown;
  here: number;
}

function CurvePlot({ booked, drafted, curve, axis, x, here }: CurveProps) {
  const { bench } = useBench();
  const y = useDictionary().shown(curve.quantity, bench.profile);
  const lines = (of: Swept, one: Curve, isDrafted: boolean): Line[] => {
    const alike = one.right?.every((value, i) => value === one.left[i]) ?? true;
    const sides = alike ? [['both sides', one.left] as const] : bothSides(one);
    return sides.map(([label, values], order) => ({
      label: one.right ? label : '',
      order,
      drafted: isDrafted,
      points: of.at.flatMap((at, i) => {
        const value = values[i];
        return value === null || value === undefined ? [] : [[at, value] as [number, number]];
      }),
    }));
  };
  const then = drafted?.curves.find((one) => one.name === curve.name);
  return (
    <div>
      <h3>{curve.label}</h3>
      <Plot
        label={`${curve.label} over ${axis.toLowerCase()}`}
        x={{ name: axis, shown: x, here }}
        y={{ name: '', shown: y }}
        lines={[
          ...lines(booked, curve, false),
          ...(then && drafted ? lines(drafted, then, true) : []),
        ]}
      />
    </div>
  );
}

const bothSides = (one: Curve) => [
  ['left', one.left] as const,
  ['right', one.right ?? []] as const,
];

/** One turn and one shim change angles by hundredths: a place more than the shop reads. */
const hundredths = (shown: Shown): Shown => ({
  ...shown,
  precision: Math.min(shown.precision, 0.01),
});

const SIDE_NAMES = { either: '', left: ', left side', right: ', right side' };

/** What each adjustment of a side does at ride height, the toe not set again. */
function Adjustments({
  side,
  rows,
}: {
  side: keyof typeof SIDE_NAMES;
  rows: Schemas['AdjustmentView'][];
}) {
  const title = `What one turn or one shim does${SIDE_NAMES[side]}`;
  const { bench } = useBench();
  const dictionary = useDictionary();
  const of = (quantity: string) => dictionary.shown(quantity, bench.profile);
  const angle = hundredths(of('angle'));
  const length = of('fine_dimension');
  const columns = columnsOf(rows, angle, length, of('angle_per_travel'));
  return (
    <div className="one-shim">
      <h3>{title}</h3>
      <p className="hint">
        On one side, standing at ride height. The toe is not set again: bring it back with the tie
        rod.
      </p>
      <WideTable label={title}>
        <Table size="sm">
          <thead>
            <tr>
              <th scope="col">Change</th>
              {columns.map((column) => (
                <th key={column.label} scope="col">
                  {column.label} <small>{column.shown.symbol}</small>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.label}>
                <th scope="row">
                  {row.label}{' '}
                  <small>
                    {row.turned
                      ? 'by one turn'
                      : `by ${showValue(row.by, length)} ${length.symbol}`}
                  </small>
                </th>
                {columns.map((column) => {
                  const value = column.of(row);
                  return (
                    <td key={column.label}>
                      {value === null ? '–' : showChange(value, column.shown)}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </Table>
      </WideTable>
    </div>
  );
}

interface Column {
  label: string;
  shown: Shown;
  of: (row: Schemas['AdjustmentView']) => number | null;
}

function columnsOf(
  rows: Schemas['AdjustmentView'][],
  angle: Shown,
  length: Shown,
  slope: ReturnType<Dictionary['shown']>,
): Column[] {
  const steered: Column[] = rows.some((row) => row.caster !== null)
    ? [{ label: 'Caster', shown: angle, of: (row) => row.caster }]
    : [];
  return [
    { label: 'Camber', shown: angle, of: (row) => row.camber },
    { label: 'Toe', shown: angle, of: (row) => row.toe },
    ...steered,
    { label: 'Bump steer', shown: slope, of: (row) => row.bump_steer },
    { label: 'Roll centre', shown: length, of: (row) => row.roll_centre },
    { label: 'Half track', shown: length, of: (row) => row.half_track },
  ];
}
