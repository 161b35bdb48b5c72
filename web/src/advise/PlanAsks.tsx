/** What a plan of work is asked for: the figures wanted, what may be touched, what must stay as read. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useBench, valueAt } from '../bench/bench';
import { saidAt, type NumberName, type Problem, type Schemas } from '../lib/client';
import { capital, showValue } from '../lib/format';
import type { PlanAsked } from '../lib/queries';
import { PLACE_WORDS, useDictionary, whereWords } from '../lib/vocabulary';
import { Notice } from '../ui/marks';

type Aim = PlanAsked['targets'][number];

const MOST = 6;

interface Props {
  asked: PlanAsked;
  systems: Schemas['SystemEntry'][];
  problem: Problem | null;
  busy: boolean;
  ask: (asked: PlanAsked) => void;
}

/** What is asked for as it is typed, and what bars its sending. */
function usePlanAsks({ asked, ask }: Props) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const names = dictionary.data.aims
    .filter((one) => one.disciplines.includes(bench.discipline))
    .map((one) => one.number)
    .filter((name) => bench.figures[name] !== undefined || dictionary.entry(name).from_load_model);
  const first = names[0];
  const [targets, setTargets] = useState<Aim[]>(
    asked.targets.length > 0 || !first ? asked.targets : [{ name: first, place: '', value: '' }],
  );
  const [touched, setTouched] = useState(new Set(asked.systems));
  const [spare, setSpare] = useState(new Set(asked.spare));
  const [minutes, setMinutes] = useState(asked.minutes ? String(asked.minutes) : '');
  const [unsaid, setUnsaid] = useState('');
  const send = () => {
    const most = minutes.trim() === '' ? null : Number(minutes);
    if (most !== null && !(Number.isInteger(most) && most > 0)) {
      setUnsaid('Minutes are a whole number above zero, such as 45.');
      return;
    }
    if (touched.size === 0) {
      setUnsaid('Say what may be touched: one at least.');
      return;
    }
    setUnsaid('');
    ask({
      targets: targets.map((one) => ({
        ...one,
        place: one.place || (dictionary.places(one.name)[0] ?? 'car'),
      })),
      systems: [...touched],
      minutes: most,
      spare: [...spare],
    });
  };
  const put = (at: number, change: Partial<Aim>) =>
    setTargets(targets.map((each, i) => (i === at ? { ...each, ...change } : each)));
  const remove =
    targets.length > 1 ? (at: number) => setTargets(targets.filter((_, i) => i !== at)) : undefined;
  const add =
    targets.length < MOST && first
      ? () => setTargets([...targets, { name: first, place: '', value: '' }])
      : undefined;
  return {
    names,
    targets: { all: targets, put, remove, add },
    touched: { chosen: touched, set: setTouched },
    spare: { chosen: spare, set: setSpare },
    minutes: { text: minutes, set: setMinutes },
    unsaid,
    send,
  };
}

export function PlanAsks(props: Props) {
  const { asked, systems, problem, busy } = props;
  const { bench } = useBench();
  const dictionary = useDictionary();
  const { names, targets, touched, spare, minutes, unsaid, send } = usePlanAsks(props);
  const readings = bench.standings.flatMap((one) => {
    const kind = dictionary.reading(one.kind);
    return kind && !kind.when_needed ? [kind] : [];
  });
  return (
    <form
      className="plan-asks"
      aria-label="What is wanted"
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <fieldset>
        <legend>Wanted</legend>
        {targets.all.map((one, i) => (
          <TargetRow
            key={i}
            at={i}
            one={one}
            names={names}
            said={saidAt(problem, `value-${i}`)}
            put={(change) => targets.put(i, change)}
            remove={targets.remove && (() => targets.remove?.(i))}
          />
        ))}
        {targets.add && (
          <button type="button" className="quiet" onClick={targets.add}>
            Add a figure
          </button>
        )}
      </fieldset>
      <Ticks
        legend="May be touched"
        options={systems.map((one) => [one.id, capital(one.label)] as const)}
        {...touched}
      />
      <details open={asked.spare.length > 0}>
        <summary>Readings that must not be upset</summary>
        <Ticks
          legend="Must not be upset"
          options={readings.map((one) => [one.id, one.label] as const)}
          {...spare}
          hidden
        />
      </details>
      <div className="plan-go">
        <div className="cell">
          <label htmlFor="plan-minutes">In at most</label>
          <span className="given-box">
            <input
              id="plan-minutes"
              inputMode="numeric"
              autoComplete="off"
              value={minutes.text}
              onChange={(event) => minutes.set(event.target.value)}
            />
            <small>min</small>
          </span>
        </div>
        <Button type="submit" variant="dark" disabled={busy}>
          {busy ? 'Trying set-ups …' : 'Find plans'}
        </Button>
      </div>
      {unsaid && <Notice tone="draft">{unsaid}</Notice>}
    </form>
  );
}

interface RowProps {
  at: number;
  one: Aim;
  names: NumberName[];
  said: string | undefined;
  put: (change: Partial<Aim>) => void;
  remove: (() => void) | undefined;
}

function TargetRow({ at, one, names, said, put, remove }: RowProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(one.name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const places = dictionary.places(one.name);
  const place = one.place || (places[0] ?? 'car');
  const now = valueAt(bench, one.name, places.indexOf(place));
  return (
    <div className={`plan-target cell${said ? ' has-problem' : ''}`}>
      <select
        aria-label={`Figure ${at + 1}`}
        value={one.name}
        onChange={(event) => put({ name: event.target.value as NumberName, place: '' })}
      >
        {names.map((each) => (
          <option key={each} value={each}>
            {dictionary.entry(each).label}
          </option>
        ))}
      </select>
      {places.length > 1 && (
        <select
          aria-label={`Where, figure ${at + 1}`}
          value={place}
          onChange={(event) => put({ place: event.target.value })}
        >
          {places.map((each) => (
            <option key={each} value={each}>
              {PLACE_WORDS[each] ?? each}
            </option>
          ))}
        </select>
      )}
      <span className="given-box">
        <input
          aria-label={`${whereWords(entry.label, [place])} wanted`}
          inputMode="decimal"
          autoComplete="off"
          value={one.value}
          aria-invalid={said !== undefined}
          onChange={(event) => put({ value: event.target.value })}
        />
        <small>{shown.symbol}</small>
      </span>
      <small className="hint">
        {entry.from_load_model
          ? entry.sign
          : now === undefined
            ? 'not known now'
            : `now ${showValue(now, shown)}`}
      </small>
      {remove && (
        <button type="button" className="quiet" onClick={remove}>
          Remove<span className="visually-hidden"> figure {at + 1}</span>
        </button>
      )}
      {said && (
        <p className="said" role="alert">
          {said}
        </p>
      )}
    </div>
  );
}

interface TicksProps {
  legend: string;
  options: readonly (readonly [string, string])[];
  chosen: Set<string>;
  set: (chosen: Set<string>) => void;
  /** The heading stands elsewhere already. */
  hidden?: boolean;
}

function Ticks({ legend, options, chosen, set, hidden = false }: TicksProps) {
  return (
    <fieldset className="ticks">
      <legend className={hidden ? 'visually-hidden' : undefined}>{legend}</legend>
      {options.map(([id, label]) => (
        <label key={id}>
          <input
            type="checkbox"
            checked={chosen.has(id)}
            onChange={() => {
              const next = new Set(chosen);
              if (!next.delete(id)) next.add(id);
              set(next);
            }}
          />{' '}
          {label}
        </label>
      ))}
    </fieldset>
  );
}
