/** One number as it is shown everywhere: mark, value, unit, what the slip makes of it, its band. */
import type { NumberName } from '../lib/client';
import { bandOf, useBench, afterAt, valueAt } from './bench';
import { useSetting } from './slip';
import { KindMark, StatusMark, type Kind } from '../ui/marks';
import { showMove, showValue } from '../lib/format';
import { useDictionary } from '../lib/vocabulary';

interface Props {
  name: NumberName;
  place?: string;
  size?: 'line' | 'big';
  /** Show the change by the slip as a signed difference rather than a second value. */
  asChange?: boolean;
}

/** The value of a number, ready to be put beside any label. Pressing it opens its working. */
export function Figure({ name, place = 'car', size = 'line', asChange = false }: Props) {
  const { bench, explain } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const at = dictionary.places(name).indexOf(place);
  const figure = bench.figures[name];
  const value = valueAt(bench, name, at);
  const after = afterAt(bench, name, at);
  const where = place === 'car' ? entry.label : `${entry.label}, ${place}`;
  if (value === undefined || !figure)
    return (
      <button
        type="button"
        className={`figure figure-${size} is-missing`}
        onClick={() => explain(name, place)}
      >
        <StatusMark status={figure?.refused ? 'void' : 'missing'} />
        <span>{figure?.refused ? 'not possible' : needsWords(entry.kind, figure?.missing)}</span>
        <span className="visually-hidden">{where}</span>
      </button>
    );
  const move = after === undefined ? null : showMove(value, after, shown);
  const moved = after !== undefined && showValue(after, shown) !== showValue(value, shown);
  const status = figure.places[at] ?? figure.status;
  const estimated = figure.estimated.length > 0;
  // a typical value that stands in was neither read nor set: only what is worked from one keeps its mark
  const standsIn = estimated && entry.kind !== 'worked';
  return (
    <button
      type="button"
      className={`figure figure-${size} stands-${status}`}
      onClick={() => explain(name, place)}
      title={figure.ends || 'Show the working'}
    >
      <span className="visually-hidden">{where}: </span>
      {!standsIn && <KindMark kind={entry.kind} silent />}
      <b>{moved ? move?.before : showValue(value, shown)}</b>{' '}
      {moved && !asChange && (
        <>
          <i>→</i> <b className="drafted">{move?.after}</b>{' '}
        </>
      )}
      {shown.symbol && <small>{shown.symbol}</small>}{' '}
      {moved && bench.slip.predicted.includes(name) && <em className="predicted">predicted</em>}{' '}
      {moved && asChange && <em className="drafted">{move?.change}</em>}
      {status !== 'fresh' && <StatusMark status={status} silent />}
      {estimated && <span className="estimate">est.</span>}
      {figure.ends && <span className="past-range">past its range</span>}
      <span className="visually-hidden">
        {!standsIn && `, ${entry.kind}`}
        {status !== 'fresh' && `, ${status}`}
      </span>
    </button>
  );
}

function needsWords(kind: Kind, missing: { sentence: string }[] | undefined): string {
  if (kind === 'read') return 'not read yet';
  if (kind === 'given') return 'not given';
  if (kind === 'set') return 'not set';
  if (!missing?.length) return 'not calculated';
  const [first] = missing;
  return `needs ${first?.sentence ?? ''}${missing.length > 1 ? ` and ${missing.length - 1} more` : ''}`;
}

/** A number that decides, with its label above and its band below. */
export function BigFigure({ name, place = 'car' }: { name: NumberName; place?: string }) {
  const dictionary = useDictionary();
  const entry = dictionary.entry(name);
  return (
    <div className="big-figure">
      <span className="big-label">
        {entry.label}
        {place !== 'car' ? `, ${place}` : ''}
      </span>
      <Figure name={name} place={place} size="big" asChange />
      <BandBar name={name} place={place} />
    </div>
  );
}

/** The target range of a figure: a tick where we are, a second one where the slip goes. */
export function BandBar({ name, place = 'car' }: { name: NumberName; place?: string }) {
  const { bench } = useBench();
  const at = useDictionary().places(name).indexOf(place);
  const value = valueAt(bench, name, at);
  return <RangeBar name={name} place={place} value={value} after={afterAt(bench, name, at)} />;
}

/** The target range of a setting, against what is set and not what was read of it. */
export function SettingBand({ name, place }: { name: NumberName; place: string }) {
  const { booked, value, drafted } = useSetting(name, place);
  const figure = (one: typeof value) => (typeof one === 'number' ? one : undefined);
  const after = drafted ? figure(value) : undefined;
  return <RangeBar name={name} place={place} value={figure(booked)} after={after} />;
}

interface RangeProps {
  name: NumberName;
  place: string;
  value: number | undefined;
  after: number | undefined;
}

function RangeBar({ name, place, value, after }: RangeProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const band = bandOf(bench, name, place);
  if (!band || value === undefined) return null;
  const margin = (band.high - band.low) * 0.9;
  const position = (si: number) =>
    Math.min(
      100,
      Math.max(0, ((si - band.low + margin) / (band.high - band.low + 2 * margin)) * 100),
    );
  const shown = dictionary.shown(dictionary.entry(name).quantity, bench.profile);
  const words = `target range ${showValue(band.low, shown)} to ${showValue(band.high, shown)} ${shown.symbol}`;
  const inside = value >= band.low && value <= band.high;
  return (
    <svg
      className="band"
      viewBox="0 0 100 12"
      preserveAspectRatio="none"
      role="img"
      aria-label={`${words}, ${inside ? 'inside' : 'outside'}`}
    >
      <title>{words}</title>
      <rect
        x={position(band.low)}
        width={position(band.high) - position(band.low)}
        y="1"
        height="9"
      />
      <path d="M0 10.5H100" />
      <path className="here" d={`M${position(value)} 0V12`} />
      {after !== undefined && <path className="there" d={`M${position(after)} 0V12`} />}
    </svg>
  );
}
