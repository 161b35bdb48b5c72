/** What each adjuster of the car can do: its ends, and for clicks where the counting starts. */
import { useState } from 'react';
import { api, type NumberName } from '../lib/client';
import { useBench, useSaved } from '../bench/bench';
import { Notice } from '../ui/marks';
import { Choose, Field, FormSheet } from '../ui/fields';
import { useMay } from '../lib/me';
import { showPrecise } from '../lib/format';
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
  const adjustable = dictionary.data.numbers.filter(
    (entry) =>
      entry.on_slip &&
      !entry.is_part &&
      (!entry.layouts.length || entry.layouts.includes(bench.rear_layout)),
  );
  const names = adjustable.map((entry) => entry.name).filter((name) => bench.adjusters[name]);
  const absent = adjustable.filter((entry) => !bench.adjusters[entry.name]);
  const remove = api.useMutation('delete', '/api/cars/{car_id}/adjusters/{name}', useSaved());
  return (
    <section className="stores" id="adjusters">
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
                {range?.usual && <small> usual range</small>}
                {Object.entries(range?.at ?? {}).map(([place, [low = 0, high = 0]]) => (
                  <small key={place}>
                    {' '}
                    {place} {showPrecise(low, shown)} to {showPrecise(high, shown)}
                  </small>
                ))}
              </span>
              {may && (
                <button type="button" className="quiet" onClick={() => setOpen(name)}>
                  Change<span className="visually-hidden"> {entry.label}</span>
                </button>
              )}
              {may && bench.setup[name]?.every((one) => one === null) && (
                <button
                  type="button"
                  className="quiet"
                  onClick={() => remove.mutate({ params: { path: { car_id: bench.id, name } } })}
                >
                  Remove<span className="visually-hidden"> {entry.label}</span>
                </button>
              )}
            </li>
          );
        })}
      </ul>
      {remove.error && <Notice tone="draft">{remove.error.message}</Notice>}
      {may && absent.length > 0 && (
        <div className="add-adjuster">
          <label htmlFor="new-adjuster">Add an adjuster</label>
          <select
            id="new-adjuster"
            value=""
            onChange={(event) => setOpen(event.target.value as NumberName)}
          >
            <option value="">choose</option>
            {absent.map((entry) => (
              <option key={entry.name} value={entry.name}>
                {entry.label}
              </option>
            ))}
          </select>
        </div>
      )}
      {open && <RangeForm key={open} name={open} done={() => setOpen(null)} />}
    </section>
  );
}

function RangeForm({ name, done }: { name: NumberName; done: () => void }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const range = bench.adjusters[name];
  const [lowest, setLowest] = useState(range ? showPrecise(range.lowest, shown) : '');
  const [highest, setHighest] = useState(range ? showPrecise(range.highest, shown) : '');
  const [place, setPlace] = useState('');
  const [counted, setCounted] = useState<Counted>((range?.counted ?? '') as Counted);
  const save = api.useMutation('put', '/api/cars/{car_id}/adjusters/{name}', useSaved(done));
  const send = () =>
    save.mutate({
      params: { path: { car_id: bench.id, name } },
      body: {
        lowest,
        highest,
        counted: entry.quantity === 'clicks' ? counted || 'from_closed' : '',
        place,
      },
    });
  const problem = save.error;
  return (
    <FormSheet title={entry.label} act="Save" save={save} send={send} done={done}>
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
        {entry.shape === 'corner' && range && (
          <Choose
            id="range-place"
            label="Where"
            value={place}
            set={setPlace}
            options={[
              ['', 'everywhere'],
              ...dictionary.places(name).map((one) => [one, `${one} alone`] as [string, string]),
            ]}
          />
        )}
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
