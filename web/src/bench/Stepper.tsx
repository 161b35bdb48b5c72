/** A set number in its natural step, or a part chosen from the inventory. Every move goes on the slip. */
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import type { NumberName } from '../lib/client';
import { useMay } from '../lib/me';
import { axleOf, OTHER_SIDE, useDictionary, whereWords } from '../lib/vocabulary';
import { useBench } from './bench';
import { usePairing } from './pairing';
import { useSetting, useSlip, type Change } from './slip';
import { useWay, type Value } from './ways';

export function Stepper({ name, place }: { name: NumberName; place: string }) {
  const dictionary = useDictionary();
  const may = useMay('draft');
  const entry = dictionary.entry(name);
  const { value } = useSetting(name, place);
  const way = useWay(name, place);
  if (!may)
    return (
      <span className="stepper stepper-still">
        <b>{way.show(value)}</b> {value !== null && way.unit && <small>{way.unit}</small>}
      </span>
    );
  if (way.blocked)
    return (
      <span className="stepper stepper-still" title={way.blocked}>
        <b>{way.show(value)}</b> <small className="word-void">{way.blocked}</small>
      </span>
    );
  if (entry.is_part && !way.unit) return <PartChoice name={name} place={place} />;
  return <Steps name={name} place={place} />;
}

function usePut(name: NumberName, place: string) {
  const { change } = useSlip();
  const [pairing] = usePairing();
  const dictionary = useDictionary();
  const { paired } = dictionary.discipline(useBench().bench.discipline);
  const together =
    pairing && !dictionary.entry(name).single_corner && paired.includes(axleOf(place));
  return (to: Value, alone: boolean) => {
    const other = OTHER_SIDE[place];
    const changes: Change[] = [{ name, place, new: to }];
    if (together && !alone && other) changes.push({ name, place: other, new: to });
    change(changes);
  };
}

function Steps({ name, place }: { name: NumberName; place: string }) {
  const dictionary = useDictionary();
  const [typing, setTyping] = useState<string | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const { value, booked, drafted } = useSetting(name, place);
  const way = useWay(name, place);
  const put = usePut(name, place);
  const where = whereWords(dictionary.entry(name).label, [place]);
  const open = typing !== null;
  useEffect(() => {
    if (open) field.current?.focus();
  }, [open]);
  const step = (by: 1 | -1, alone: boolean) => {
    const next = way.next(value, by);
    if (next !== undefined) put(next, alone);
  };
  if (open)
    return (
      <input
        ref={field}
        className="stepper-input"
        aria-label={`${where}, type a value`}
        value={typing}
        onChange={(event) => setTyping(event.target.value)}
        onBlur={() => setTyping(null)}
        onKeyDown={(event) => {
          if (event.key === 'Escape') setTyping(null);
          if (event.key === 'Enter') {
            if (typing.trim()) put(typing.trim(), event.shiftKey);
            setTyping(null);
          }
        }}
      />
    );
  return (
    <span className={`stepper${drafted ? ' is-drafted' : ''}`}>
      <span
        className="stepper-value"
        role="spinbutton"
        tabIndex={0}
        aria-label={where}
        aria-valuenow={way.index(value)}
        aria-valuetext={`${way.show(value)} ${value === null ? '' : way.unit}${drafted ? `, was ${way.show(booked)}` : ''}`}
        onDoubleClick={() => setTyping('')}
        onKeyDown={(event) => {
          if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
            event.preventDefault();
            step(event.key === 'ArrowUp' ? 1 : -1, event.shiftKey);
          }
          if (event.key === 'Enter' || /^[0-9]$/.test(event.key)) {
            event.preventDefault();
            setTyping(event.key === 'Enter' ? '' : event.key);
          }
        }}
      >
        {drafted && <s>{way.show(booked)}</s>}
        <b className={value === null ? 'is-unset' : undefined}>{way.show(value)}</b>
        {value !== null && way.unit && <small>{way.unit}</small>}
      </span>
      <button
        type="button"
        tabIndex={-1}
        aria-label={`${where}, down`}
        disabled={way.next(value, -1) === undefined}
        onClick={(event) => step(-1, event.shiftKey)}
      >
        −
      </button>
      <button
        type="button"
        tabIndex={-1}
        aria-label={`${where}, up`}
        disabled={way.next(value, 1) === undefined}
        onClick={(event) => step(1, event.shiftKey)}
      >
        +
      </button>
    </span>
  );
}

/** Which part of the inventory sits here. */
function PartChoice({ name, place }: { name: NumberName; place: string }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const { value, drafted } = useSetting(name, place);
  const way = useWay(name, place);
  const put = usePut(name, place);
  const where = whereWords(dictionary.entry(name).label, [place]);
  if (way.options.length === 0 && value === null)
    return (
      <Link className="quiet" to={`/cars/${bench.id}/parts#${name}`}>
        Add one<span className="visually-hidden"> {where}</span>
      </Link>
    );
  return (
    <select
      className={`part-choice${drafted ? ' is-drafted' : ''}`}
      aria-label={where}
      value={value ?? ''}
      onChange={(event) => put(event.target.value || null, true)}
    >
      <option value="">not set</option>
      {way.options.map((one) => (
        <option key={one.value} value={one.value}>
          {one.words}
        </option>
      ))}
    </select>
  );
}
