/**
 * A fact of the car, or a target, typed in any unit and saved when left. A fact that somebody gave
 * before asks one thing: was it measured better, or altered on the car?
 */
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useId, useRef, useState } from 'react';
import { api, Problem, type NumberName } from '../lib/client';
import { showPrecise, showValue } from '../lib/format';
import { useMay } from '../lib/me';
import { benchQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { KindMark } from '../ui/marks';
import { useBench, useSaved, type BenchData } from './bench';
import { useSlip } from './slip';

interface Props {
  name: NumberName;
  /** Places that this one field writes alike, such as both corners of an axle. */
  places: string[];
  label?: string;
}

/** A fact as it is typed in this car's units: what stands, what was guessed, and how a figure reads. */
function useGivenText({ name, places }: Props) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const all = dictionary.places(name);
  const given = bench.given[name];
  const values = given?.values ?? all.map(() => null);
  const inverted = entry.accepts_inverse && bench.ratio_is === 'wheel_per_spring';
  const ratioUnit = inverted ? 'wheel / spring' : 'spring / wheel';
  const indexes = places.map((place) => all.indexOf(place));
  const show = (si: number, precise: boolean) => {
    if (inverted) return (1 / si).toFixed(3);
    return precise ? showPrecise(si, shown) : showValue(si, shown);
  };
  const figure = bench.figures[name];
  return {
    entry,
    all,
    values,
    unit: entry.accepts_inverse ? ratioUnit : shown.symbol,
    text: describe(
      indexes.map((at) => values[at] ?? null),
      (si) => show(si, true),
    ),
    guessed: indexes.some((at) => given?.estimated[at]),
    why: given?.why,
    byPoints: places.some((place) => figure?.by_points.includes(place))
      ? describe(
          indexes.map((at) => figure?.values?.[at] ?? null),
          (si) => show(si, false),
        )
      : null,
  };
}

type Values = (number | string | null)[];

/** Writing a fact: one after another, each saying what stood there when its typing began. */
function useGivenWrite({ name, places }: Props, all: string[]) {
  const { bench, refresh } = useBench();
  const queries = useQueryClient();
  const save = api.useMutation('patch', '/api/cars/{car_id}/given', useSaved());
  // what stood there when the typing began: somebody may change it before it is sent
  const seen = useRef<Values | null>(null);
  // one write after another: the second of two typed in a row stands on what the first one wrote
  const writes = useRef(Promise.resolve());
  const underWay = useRef<string | null>(null);
  const now = (): Values =>
    queries.getQueryData<BenchData>(benchQuery(bench.id).queryKey)?.given[name]?.values ??
    all.map(() => null);
  const write = async (cell: string, confirmed: boolean, written: () => void) => {
    const stood = seen.current ?? now();
    const next = all.map((place, i) => (places.includes(place) ? cell : (stood[i] ?? null)));
    try {
      await save.mutateAsync({
        params: { path: { car_id: bench.id } },
        body: { values: { [name]: next }, confirmed, seen: { [name]: stood } },
      });
    } catch (refused) {
      if (refused instanceof Problem && refused.code === 'conflict') {
        seen.current = null;
        await refresh();
      }
      return;
    } finally {
      underWay.current = null;
    }
    seen.current = null;
    written();
  };
  return {
    problem: save.error,
    reset: save.reset,
    /** Typing begins, with what stands there; null once it is over. */
    begin: (stood: Values | null) => {
      seen.current = stood;
    },
    isUnderWay: (cell: string) => cell === underWay.current,
    send: (cell: string, confirmed: boolean, written: () => void) => {
      underWay.current = cell;
      writes.current = writes.current.then(() => write(cell, confirmed, written));
    },
  };
}

/** The field at work: what is typed, what is asked about it, and what stood there before. */
function useGivenField(props: Props) {
  const { name, places } = props;
  const { bench } = useBench();
  const { change } = useSlip();
  const given = useGivenText(props);
  const { text, guessed, entry, values } = given;
  const writing = useGivenWrite(props, given.all);
  // a changed fact that waits for its answer outlives a reload
  const waiting = `given-${bench.id}-${name}-${places.join()}`;
  const [typed, setTyped] = useState<string | null>(() => sessionStorage.getItem(waiting));
  const [asking, setAsking] = useState(typed !== null);
  useEffect(() => {
    if (asking && typed !== null) sessionStorage.setItem(waiting, typed);
    else sessionStorage.removeItem(waiting);
  }, [asking, typed, waiting]);
  const [previous, setPrevious] = useState<string | null>(null);
  const send = (cell: string, confirmed: boolean) =>
    writing.send(cell, confirmed, () => {
      setAsking(false);
      setTyped((typing) => (typing === cell ? null : typing)); // what was typed since then stays
      setPrevious(cell === text || text.includes('|') ? null : text);
    });
  const leave = () => {
    setTyped(null);
    writing.begin(null);
    setAsking(false);
    writing.reset();
  };
  const isKnown = entry.is_fact && text !== '' && !guessed;
  return {
    ...given,
    problem: writing.problem,
    typed,
    asking,
    previous: typed === null ? previous : null,
    send,
    leave,
    type: (next: string) => {
      if (typed === null) writing.begin(values);
      setTyped(next);
      setAsking(false);
      writing.reset();
    },
    commit: () => {
      if (typed !== null && writing.isUnderWay(typed)) return; // Enter, then the field is left
      // the same again is no change, but of a typical value it is a measurement
      if (typed === null || (typed === text && !guessed)) leave();
      else if (isKnown && typed.trim()) setAsking(true);
      else send(typed, false);
    },
    /** Put it on the slip: the part was changed. */
    alter: () => {
      change(places.map((place) => ({ name, place, new: typed })));
      leave();
    },
  };
}

export function GivenField(props: Props) {
  const { name, places, label } = props;
  const { wish } = useSlip();
  const may = useMay('give');
  const id = useId();
  const field = useGivenField(props);
  const { entry, text, typed, problem } = field;
  const sentence = problem ? (problem.errors[0]?.detail ?? problem.detail) : null;
  const drafted = wish.changes.find((one) => one.name === name && places.includes(one.place));
  return (
    <div
      className={`given-field${sentence ? ' has-problem' : ''}`}
      id={`${name}-${places[0] ?? ''}`}
    >
      <label htmlFor={id}>
        {!field.guessed && <KindMark kind={entry.kind} />} {label ?? entry.label}
        {field.guessed && (
          <span className="estimate" title={field.why}>
            est.
          </span>
        )}
      </label>
      <span className="given-box">
        <input
          id={id}
          value={typed ?? text}
          placeholder={text ? undefined : entry.kind === 'set' ? 'target' : 'not given'}
          readOnly={!may}
          inputMode="text"
          autoComplete="off"
          aria-invalid={sentence !== null}
          aria-describedby={`${id}-said`}
          onChange={(event) => field.type(event.target.value)}
          onBlur={() => {
            if (!field.asking) field.commit();
          }}
          onKeyDown={(event) => {
            if (event.key === 'Enter') field.commit();
            if (event.key === 'Escape') field.leave();
          }}
        />
        {field.unit && <small>{field.unit}</small>}
      </span>
      {field.byPoints !== null && (
        <small className="by-points">worked from the suspension points: {field.byPoints}</small>
      )}
      {drafted && <small className="drafted">on the slip: {String(drafted.new)}</small>}
      {field.asking && <WhyItChanges field={field} />}
      {field.previous !== null && may && (
        <button
          type="button"
          className="quiet put-back"
          onClick={() => field.send(field.previous ?? '', true)}
        >
          {field.previous ? `Restore ${field.previous}` : 'Clear it again'}
        </button>
      )}
      <span id={`${id}-said`} className="field-said" role={sentence ? 'alert' : undefined}>
        {sentence}
        {problem?.asksToConfirm && (
          <button
            type="button"
            className="quiet"
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => field.send(typed ?? '', true)}
          >
            Use {typed} anyway
          </button>
        )}
      </span>
    </div>
  );
}

function WhyItChanges({ field }: { field: ReturnType<typeof useGivenField> }) {
  return (
    <span className="given-ask" role="group" aria-label="Not saved yet: why it changes">
      <small>Not saved yet</small>
      <button type="button" className="quiet" onClick={() => field.send(field.typed ?? '', false)}>
        I measured again
      </button>
      <button type="button" className="quiet" onClick={field.alter}>
        I changed the part
      </button>
      <button type="button" className="quiet" onClick={field.leave}>
        Cancel
      </button>
    </span>
  );
}

function describe(values: (number | null)[], show: (si: number) => string): string {
  const texts = values.map((value) => (value === null ? '' : show(value)));
  return texts.every((text) => text === texts[0]) ? (texts[0] ?? '') : texts.join(' | ');
}

const PAIRS = [
  { axle: 'front', places: ['LF', 'RF'] },
  { axle: 'rear', places: ['LR', 'RR'] },
] as const;

/** A fact that is so or not. */
function FlagField({ name }: { name: NumberName }) {
  const { bench } = useBench();
  const entry = useDictionary().entry(name);
  const may = useMay('give');
  const id = useId();
  const save = api.useMutation('patch', '/api/cars/{car_id}/given', useSaved());
  return (
    <div className="given-field" id={`${name}-car`}>
      <label htmlFor={id}>
        <KindMark kind={entry.kind} /> {entry.label}
      </label>
      <select
        id={id}
        disabled={!may}
        value={String(bench.given[name]?.values[0] ?? entry.default ?? 0)}
        onChange={(event) =>
          save.mutate({
            params: { path: { car_id: bench.id } },
            body: { values: { [name]: [Number(event.target.value)] } },
          })
        }
      >
        <option value="0">no</option>
        <option value="1">yes</option>
      </select>
    </div>
  );
}

/** Fields for a number at every place; left and right together until they differ or are split. */
export function GivenFields({ name, axle }: { name: NumberName; axle?: 'front' | 'rear' }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const may = useMay('give');
  const [split, setSplit] = useState(false);
  const { shape, label, quantity } = dictionary.entry(name);
  if (quantity === 'flag') return <FlagField name={name} />;
  if (shape === 'car') return <GivenField name={name} places={['car']} />;
  if (shape !== 'corner')
    return dictionary
      .places(name)
      .filter((place) => !axle || shape !== 'axle' || place === axle)
      .map((place) => (
        <GivenField
          key={place}
          name={name}
          places={[place]}
          label={axle && shape === 'axle' ? undefined : `${label}, ${place}`}
        />
      ));
  const all = dictionary.places(name);
  const values = bench.given[name]?.values ?? [];
  const unlike = (places: readonly string[]) =>
    values[all.indexOf(places[0] ?? '')] !== values[all.indexOf(places[1] ?? '')];
  const pairs = PAIRS.filter((pair) => !axle || pair.axle === axle);
  const forced = pairs.some((pair) => unlike(pair.places));
  return (
    <>
      {pairs.flatMap((pair) =>
        split || unlike(pair.places)
          ? pair.places.map((place) => (
              <GivenField key={place} name={name} places={[place]} label={`${label}, ${place}`} />
            ))
          : [
              <GivenField
                key={pair.axle}
                name={name}
                places={[...pair.places]}
                label={axle ? undefined : `${label}, ${pair.axle}`}
              />,
            ],
      )}
      {may && !forced && (
        <button type="button" className="quiet apart" onClick={() => setSplit(!split)}>
          {split ? 'Left and right together' : 'Left and right apart'}
          <span className="visually-hidden"> {label}</span>
        </button>
      )}
    </>
  );
}
