/** One component for each kind of panel that a station may name. */
import { usePrefetchQuery } from '@tanstack/react-query';
import { lazy, memo, Suspense, type ComponentType, type ReactNode } from 'react';
import { Link } from 'react-router';
import { BenchLater, useBench, valueAt } from '../bench/bench';
import { BigFigure, Figure, SettingBand } from '../bench/Figure';
import { PairingSwitch } from '../bench/pairing';
import { SlipLater } from '../bench/slip';
import { Stepper } from '../bench/Stepper';
import { CarPlan } from '../drawings/CarPlan';
import { WheelAngles } from '../drawings/WheelAngles';
import type { NumberName, Schemas } from '../lib/client';
import { capital, showValue } from '../lib/format';
import { chartQuery } from '../lib/queries';
import { axleOf, useDictionary } from '../lib/vocabulary';
import { StatusMark } from '../ui/marks';
import { Against } from '../bench/Against';
import { Limits } from '../bench/Limits';
import { Waiting } from '../ui/states';
import { Corners } from './Corners';
import { QuestionPanel } from './QuestionPanel';
import type { PanelProps } from './props';
import { ReadingPanel } from './ReadingPanel';

type Station = Schemas['StationEntry'];

/** A panel that comes when its station is opened and draws after the figures beside it. */
function later(load: () => Promise<ComponentType<PanelProps>>): ComponentType<PanelProps> {
  const Kind = memo(lazy(async () => ({ default: await load() })));
  return function Later(props: PanelProps) {
    return (
      <BenchLater>
        <SlipLater>
          <Kind {...props} />
        </SlipLater>
      </BenchLater>
    );
  };
}

const ChartPanel = later(() => import('./ChartPanel').then((m) => m.ChartPanel));

/** A chart is drawn later than the figures, but its points are asked for with them. */
function ChartAhead(props: PanelProps) {
  const { bench } = useBench();
  usePrefetchQuery(chartQuery(bench.id, props.panel.chart));
  return <ChartPanel {...props} />;
}

const DRAWINGS: Record<string, ComponentType> = { plan: CarPlan, wheels: WheelAngles };

const PANELS: Record<Schemas['PanelEntry']['kind'], ComponentType<PanelProps>> = {
  corners: CornersPanel,
  big: BigPanel,
  settings: SettingsPanel,
  figures: FiguresPanel,
  readings: ReadingsPanel,
  measure_next: MeasureNext,
  uneven: Uneven,
  ready: Ready,
  note: Note,
  question: QuestionPanel,
  floor: later(() => import('./FloorPanel').then((m) => m.FloorPanel)),
  stock: later(() => import('./SpringStock').then((m) => m.SpringStock)),
  conventions: later(() => import('./SpringStock').then((m) => m.Conventions)),
  schools: later(() => import('./SpringStock').then((m) => m.FrequencySchools)),
  plot: later(() => import('./PlotPanel').then((m) => m.PlotPanel)),
  under_load: later(() => import('./LoadPanel').then((m) => m.LoadPanel)),
  geometry: later(() => import('./GeometryPanel').then((m) => m.GeometryPanel)),
  fuel: later(() => import('./FuelPanel').then((m) => m.FuelPanel)),
  ladder: later(() => import('./LadderPanel').then((m) => m.LadderPanel)),
  chart: ChartAhead,
  bands: later(() => import('./BandsPanel').then((m) => m.BandsPanel)),
  tread: later(() => import('./TreadPanel').then((m) => m.TreadPanel)),
  in_time: later(() => import('./InTimePanel').then((m) => m.InTimePanel)),
  contact: later(() => import('./ContactPanel').then((m) => m.ContactPanel)),
  set_and_read: later(() => import('./SetAndRead').then((m) => m.SetAndRead)),
  ballast: later(() => import('./BallastPanel').then((m) => m.BallastPanel)),
  facts: later(() => import('./FactsPanel').then((m) => m.FactsPanel)),
  watched: later(() => import('./WatchedPanel').then((m) => m.WatchedPanel)),
  side_view: later(() => import('./SideViewPanel').then((m) => m.SideViewPanel)),
  holes: later(() => import('./HolesPanel').then((m) => m.HolesPanel)),
  square: later(() => import('./SquarePanel').then((m) => m.SquarePanel)),
  stroke: later(() => import('./StrokePanel').then((m) => m.StrokePanel)),
  plot_sheet: later(() => import('./PlotSheet').then((m) => m.PlotSheet)),
  cut: later(() => import('./CutPanel').then((m) => m.CutPanel)),
  passes: later(() => import('./PassesPanel').then((m) => m.PassesPanel)),
  line_error: later(() => import('./LineErrorPanel').then((m) => m.LineErrorPanel)),
  ledger: later(() => import('./LedgerPanel').then((m) => m.LedgerPanel)),
};

export function Panel(props: PanelProps) {
  const Kind = PANELS[props.panel.kind];
  return (
    <Suspense fallback={<Waiting what="Opening" />}>
      <Kind {...props} />
    </Suspense>
  );
}

/** A number where it stands: a stepper where a slip can move it, its figure otherwise. */
function Cell({ name, place }: { name: NumberName; place: string }) {
  const entry = useDictionary().entry(name);
  return entry.on_slip ? (
    <Stepper name={name} place={place} />
  ) : (
    <Figure name={name} place={place} />
  );
}

/** The panel's own numbers, else the station's, as far as this car has them. */
function useNames({ station, panel }: PanelProps, own: (station: Station) => NumberName[]) {
  const { bench } = useBench();
  const names = panel.names.length ? panel.names : own(station);
  return names.filter(
    (name) => bench.figures[name] !== undefined || bench.setup[name] !== undefined,
  );
}

function CornersPanel(props: PanelProps) {
  const dictionary = useDictionary();
  const { paired } = dictionary.discipline(useBench().bench.discipline);
  const read = props.station.readings.flatMap((kind) => dictionary.reading(kind)?.numbers ?? []);
  const corner = (name: NumberName) => dictionary.entry(name).shape === 'corner';
  const rows = useNames(props, (station) => [
    ...read.filter((name) => !dictionary.entry(name).checks),
    ...station.sets,
    ...station.shows,
  ]).filter(corner);
  const Drawing = DRAWINGS[props.panel.drawing];
  if (rows.length === 0) return null;
  const [first, ...rest] = rows;
  const weighed = first === 'pad_mass';
  return (
    <>
      <Corners
        middle={Drawing && <Drawing />}
        corner={(place) => (
          <>
            {weighed && <CornerWeight place={place} />}
            {(weighed ? rest : rows).map((name) => (
              <div className="row-line" key={name}>
                <span>{dictionary.entry(name).label}</span>
                {dictionary.entry(name).on_slip && <SettingBand name={name} place={place} />}
                <Cell name={name} place={place} />
              </div>
            ))}
          </>
        )}
      />
      {paired.length > 0 &&
        rows.some(
          (name) => dictionary.entry(name).on_slip && !dictionary.entry(name).single_corner,
        ) && <PairingSwitch />}
    </>
  );
}

function CornerWeight({ place }: { place: string }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const at = dictionary.places('pad_mass').indexOf(place);
  const mass = valueAt(bench, 'pad_mass', at);
  const total = valueAt(bench, 'total_mass');
  const share = dictionary.shown('share', bench.profile);
  return (
    <div className="corner-weight">
      <Figure name="pad_mass" place={place} size="big" />
      {mass !== undefined && total !== undefined && (
        <span title={`share of the total, ${axleOf(place)}`}>
          {showValue(mass / total, share)} %
        </span>
      )}
    </div>
  );
}

function BigPanel(props: PanelProps) {
  const dictionary = useDictionary();
  const names = useNames(props, (station) => station.shows);
  return (
    <div className="deciding">
      {names.flatMap((name) =>
        dictionary
          .places(name)
          .map((place) => <BigFigure key={name + place} name={name} place={place} />),
      )}
    </div>
  );
}

/** Whether a station shows a number at its corners already. */
function inCorners(station: Station, name: NumberName, shape: string): boolean {
  return (
    shape === 'corner' &&
    station.panel.some(
      (one) => one.kind === 'corners' && (!one.names.length || one.names.includes(name)),
    )
  );
}

/** Settings that do not stand at the four corners, and parts wherever they sit. */
function SettingsPanel(props: PanelProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const names = useNames(props, (station) => station.sets).filter(
    (name) => !inCorners(props.station, name, dictionary.entry(name).shape),
  );
  if (props.station.sets.length > 0 && props.station.sets.every((name) => !bench.setup[name]))
    return (
      <p className="hint">
        This car has no adjuster here. <Link to={`/cars/${bench.id}/data#adjusters`}>Add one</Link>
      </p>
    );
  return <Rows names={names} />;
}

function FiguresPanel(props: PanelProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  // what only measured points tell is not asked for where there are none
  const told = (name: NumberName) =>
    dictionary.entry(name).kind !== 'set' || Array.isArray(bench.figures[name]?.values);
  const names = useNames(props, (station) => station.shows).filter(
    (name) => told(name) && !inCorners(props.station, name, dictionary.entry(name).shape),
  );
  return <Rows names={names} />;
}

/** One line for each place of each number, its sign beside the label. */
function Rows({ names }: { names: NumberName[] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  if (names.length === 0) return null;
  return (
    <div className="row-block">
      {names.flatMap((name) => {
        const entry = dictionary.entry(name);
        return usedPlaces(bench.setup[name], dictionary.places(name), entry).map((place) => (
          <div className="row-line" key={name + place} id={`${name}-${place}`}>
            <span>
              {place.startsWith(entry.label.toLowerCase()) ? '' : entry.label}
              {place === 'car'
                ? ''
                : place.startsWith(entry.label.toLowerCase())
                  ? capital(place)
                  : `, ${place}`}
              <small>{entry.sign}</small>
            </span>
            <Cell name={name} place={place} />
          </div>
        ));
      })}
    </div>
  );
}

/** Of places that are only numbered, those in use and one more; all of the others. */
function usedPlaces(
  values: unknown[] | undefined,
  places: string[],
  entry: Schemas['NumberEntry'],
): string[] {
  if (entry.shape !== 'ballast' && entry.shape !== 'spare') return places;
  const last = (values ?? []).reduce<number>((at, one, i) => (one === null ? at : i + 1), 0);
  return places.slice(0, last + 1);
}

function ReadingsPanel({ station }: PanelProps): ReactNode {
  const { bench } = useBench();
  return station.readings
    .filter((kind) => bench.standings.some((one) => one.kind === kind))
    .map((kind) => <ReadingPanel key={kind} kind={kind} />);
}

/** Estimates that stain most of what decides, each one press from where it is entered. */
function MeasureNext() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const rows = bench.measure_next.slice(0, 8);
  if (rows.length === 0) return null;
  return (
    <section className="measure-next">
      <h2>
        Measure next <small>estimates that most of your deciding figures rest on</small>
      </h2>
      <ol>
        {rows.map((row) => {
          const to = dictionary.whereEntered(bench.id, bench.discipline, row.name);
          const entry = dictionary.entry(row.name);
          return (
            <li key={row.name} title={row.why}>
              {to ? <Link to={to}>{entry.label}</Link> : entry.label}
              <span>
                {row.stains.length} figures rest on it:{' '}
                {row.stains
                  .slice(0, 3)
                  .map((one) => dictionary.entry(one).label.toLowerCase())
                  .join(', ')}
                {row.stains.length > 3 && ' …'}
              </span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

/** What keeps the car from being let out, each one press from where it is put right. */
function Ready() {
  const { bench } = useBench();
  return (
    <section className="ready" aria-label="Ready to run">
      <h2>
        <StatusMark status={bench.not_ready.length ? 'void' : 'fresh'} />{' '}
        {bench.not_ready.length ? 'Not ready to run' : 'Ready to run'}
      </h2>
      {bench.not_ready.length === 0 ? (
        <p className="hint">
          Nothing is void and nothing that this car needs was left unread. It is the record that is
          whole: whoever lets the car out looks at the car.
        </p>
      ) : (
        <Against withLimits={false} />
      )}
      <Limits of={() => true} />
    </section>
  );
}

/** What is set or fitted unlike on the two sides. */
function Uneven() {
  const { bench } = useBench();
  if (bench.uneven.length === 0) return null;
  return (
    <section className="uneven">
      <h2>Left against right</h2>
      <ul>
        {bench.uneven.map((sentence) => (
          <li key={sentence}>
            <StatusMark status="doubtful" /> {sentence}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Note({ panel }: PanelProps) {
  return <p className="hint">{panel.text}</p>;
}
