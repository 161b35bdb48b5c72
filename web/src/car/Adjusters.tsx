/** What each adjuster of the car can do: its ends, and for clicks where the counting starts. */
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { ask, client, type NumberName } from '../lib/client';
import { useBench } from '../bench/bench';
import { Choose, Field, FormSheet, problemOf } from '../ui/fields';
import { useMay } from '../lib/me';
import { showPrecise } from '../bench/GivenField';
import { useDictionary } from '../lib/vocabulary';

type Counted = '' | 'from_closed' | 'from_open';
const COUNTINGS: [Counted, string][] = [
  ['from_closed', 'out from fully closed, 0 stiffest'],
  ['from_open', 'up from fully open, 0 softest'],
];

export function Adjusters() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const may = useMay('give');
  const [open, setOpen] = useState<NumberName | null>(null);
  const names = dictionary.data.numbers
    .map((entry) => entry.name)
    .filter((name) => bench.adjusters[name]);
  return (
    <section className="stores">
      <h2>Adjusters</h2>
      <ul className="lines">
        {names.map((name) => {
          const entry = dictionary.entry(name);
          const shown = dictionary.shown(entry.quantity, bench.profile);
          const range = bench.adjusters[name];
          return (
            <li key={name}>
              <span>
                {entry.label}
                {range?.counted && (
                  <small> {COUNTINGS.find(([key]) => key === range.counted)?.[1]}</small>
                )}
              </span>
              <span className="from-to">
                {range && showPrecise(range.lowest, shown).replace('-', '−')} to{' '}
                {range && showPrecise(range.highest, shown).replace('-', '−')}{' '}
                <small>{shown.symbol}</small>
              </span>
              {may && (
                <button type="button" className="quiet" onClick={() => setOpen(name)}>
                  Change<span className="visually-hidden"> {entry.label}</span>
                </button>
              )}
            </li>
          );
        })}
      </ul>
      {open && <RangeForm key={open} name={open} done={() => setOpen(null)} />}
    </section>
  );
}

function RangeForm({ name, done }: { name: NumberName; done: () => void }) {
  const { bench, refresh } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const range = bench.adjusters[name];
  const [lowest, setLowest] = useState(range ? showPrecise(range.lowest, shown) : '');
  const [highest, setHighest] = useState(range ? showPrecise(range.highest, shown) : '');
  const [counted, setCounted] = useState<Counted>((range?.counted ?? '') as Counted);
  const save = useMutation({
    mutationFn: () =>
      ask(
        client.PUT('/api/cars/{car_id}/adjusters/{name}', {
          params: { path: { car_id: bench.id, name } },
          body: { lowest, highest, counted },
        }),
      ),
    onSuccess: async () => {
      await refresh();
      done();
    },
  });
  const problem = problemOf(save.error);
  return (
    <FormSheet title={entry.label} act="Write it down" save={save} done={done}>
      <div className="cells">
        <Field
          id="range-lowest"
          field="lowest"
          label="Lower end"
          unit={shown.symbol}
          value={lowest}
          set={setLowest}
          problem={problem}
        />
        <Field
          id="range-highest"
          field="highest"
          label="Upper end"
          unit={shown.symbol}
          value={highest}
          set={setHighest}
          problem={problem}
        />
        {entry.quantity === 'clicks' && (
          <Choose
            id="range-counted"
            label="Counted"
            value={counted}
            set={setCounted}
            options={COUNTINGS}
          />
        )}
      </div>
    </FormSheet>
  );
}
