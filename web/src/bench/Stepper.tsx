/** A set number in its natural step. Every move puts a line on the slip. */
import { useState } from 'react';
import type { NumberName } from '../lib/client';
import { useBench } from './bench';
import { useMay } from '../lib/me';
import { settingNow, useSlip, type Change } from './slip';
import { usePairing } from './pairing';
import { axleOf, OTHER_SIDE, showValue, useDictionary, whereWords } from '../lib/vocabulary';

export function Stepper({ name, place }: { name: NumberName; place: string }) {
  const { bench } = useBench();
  const { wish, change } = useSlip();
  const dictionary = useDictionary();
  const may = useMay('draft');
  const [paired] = usePairing();
  const [typing, setTyping] = useState<string | null>(null);
  const entry = dictionary.entry(name);
  const { value, booked, drafted } = settingNow(bench, wish, name, place);
  const steps = useSteps(name, place);

  const put = (to: string | number, alone: boolean) => {
    const other = OTHER_SIDE[place];
    const changes: Change[] = [{ name, place, new: to }];
    if (paired && !alone && other) changes.push({ name, place: other, new: to });
    change(changes);
  };
  const step = (by: 1 | -1, alone: boolean) => {
    const next = steps.next(value, by);
    if (next !== undefined) put(next, alone);
  };
  const where = whereWords(entry.label, [place]);
  if (!may)
    return (
      <span className="stepper stepper-still">
        <b>{steps.show(value)}</b> {steps.unit && <small>{steps.unit}</small>}
      </span>
    );
  if (typing !== null)
    return (
      <input
        className="stepper-input"
        aria-label={`${where}, type a value`}
        autoFocus
        value={typing}
        onChange={(event) => setTyping(event.target.value)}
        onBlur={() => setTyping(null)}
        onKeyDown={(event) => {
          if (event.key === 'Escape') setTyping(null);
          if (event.key === 'Enter') {
            if (typing.trim()) put(steps.typed(typing.trim()), event.shiftKey);
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
        aria-valuenow={typeof value === 'number' ? value : steps.index(value)}
        aria-valuetext={`${steps.show(value)} ${steps.unit}${drafted ? `, was ${steps.show(booked)}` : ''}`}
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
        {drafted && <s>{steps.show(booked)}</s>}
        <b>{steps.show(value)}</b>
        {steps.unit && <small>{steps.unit}</small>}
      </span>
      <button
        type="button"
        tabIndex={-1}
        aria-label={`${where}, down`}
        disabled={steps.next(value, -1) === undefined}
        onClick={(event) => step(-1, event.shiftKey)}
      >
        −
      </button>
      <button
        type="button"
        tabIndex={-1}
        aria-label={`${where}, up`}
        disabled={steps.next(value, 1) === undefined}
        onClick={(event) => step(1, event.shiftKey)}
      >
        +
      </button>
    </span>
  );
}

interface Steps {
  unit: string;
  show: (value: string | number) => string;
  index: (value: string | number) => number;
  next: (value: string | number, by: 1 | -1) => string | number | undefined;
  typed: (text: string) => string | number;
}

/** How a set number is stepped and shown at a place: stock springs, clicks, holes, degrees. */
export function useSteps(name: NumberName, place: string): Steps {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(name);
  if (name === 'spring') {
    const rate = dictionary.shown('rate', bench.profile);
    const stores = bench.springs
      .filter((spring) => spring.fits === 'both' || spring.fits === axleOf(place))
      .sort((a, b) => a.rate - b.rate);
    const find = (code: string | number) => stores.findIndex((spring) => spring.code === code);
    return {
      unit: rate.symbol,
      show: (code) => {
        const spring = stores[find(code)];
        return spring ? showValue(spring.rate, rate) : 'none';
      },
      index: find,
      next: (code, by) => stores[find(code) + by]?.code,
      typed: (text) => text,
    };
  }
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const adjuster = bench.adjusters[name];
  const size = entry.step ?? shown.precision / shown.factor;
  const counted = adjuster?.counted === 'from_open' ? 'up' : 'out';
  return {
    unit: entry.quantity === 'clicks' ? counted : shown.symbol,
    show: (value) => (typeof value === 'number' ? showValue(value, shown) : value),
    index: () => 0,
    next: (value, by) => {
      if (typeof value !== 'number' || !adjuster) return undefined;
      const to = Number((value + by * size).toPrecision(12));
      return to < adjuster.lowest - 1e-9 || to > adjuster.highest + 1e-9 ? undefined : to;
    },
    typed: (text) => text,
  };
}
