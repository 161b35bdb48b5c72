/** What each adjuster of the car can do: its ends, and for clicks where the counting starts. */
import { useState, type ReactNode } from 'react';
import { api, type NumberName } from '../lib/client';
import { useBench, useSaved } from '../bench/bench';
import { Notice } from '../ui/marks';
import { FormSheet, SelectField, TextField, useApiForm } from '../ui/form';
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
        {names.map((name) => (
          <Adjuster key={name} name={name}>
            {may && (
              <button type="button" className="quiet" onClick={() => setOpen(name)}>
                Change<span className="visually-hidden"> {dictionary.entry(name).label}</span>
              </button>
            )}
            {may && bench.setup[name]?.every((one) => one === null) && (
              <button
                type="button"
                className="quiet"
                onClick={() => remove.mutate({ params: { path: { car_id: bench.id, name } } })}
              >
                Remove<span className="visually-hidden"> {dictionary.entry(name).label}</span>
              </button>
            )}
          </Adjuster>
        ))}
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

/** One adjuster: from where to where it goes, and what may be done to it. */
function Adjuster({ name, children }: { name: NumberName; children: ReactNode }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const range = bench.adjusters[name];
  return (
    <li>
      <span>
        {entry.label}
        {range?.counted && <small> {COUNTINGS.find(([key]) => key === range.counted)?.[1]}</small>}
      </span>
      <span className="from-to">
        {range && showPrecise(range.lowest, shown).replace('-', '−')} to{' '}
        {range && showPrecise(range.highest, shown).replace('-', '−')} <small>{shown.symbol}</small>
        {range?.usual && <small> usual range</small>}
        {Object.entries(range?.at ?? {}).map(([place, [low = 0, high = 0]]) => (
          <small key={place}>
            {' '}
            {place} {showPrecise(low, shown)} to {showPrecise(high, shown)}
          </small>
        ))}
      </span>
      {children}
    </li>
  );
}

function RangeForm({ name, done }: { name: NumberName; done: () => void }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const range = bench.adjusters[name];
  const clicks = entry.quantity === 'clicks';
  const save = api.useMutation('put', '/api/cars/{car_id}/adjusters/{name}', useSaved(done));
  const form = useApiForm({
    id: 'range',
    defaults: {
      lowest: range ? showPrecise(range.lowest, shown) : '',
      highest: range ? showPrecise(range.highest, shown) : '',
      place: '',
      counted: (range?.counted ?? '') as Counted,
    },
    save,
    version: range?.version,
    send: ({ counted, ...typed }, _, header) =>
      save.mutate({
        params: { path: { car_id: bench.id, name }, header },
        body: { ...typed, counted: clicks ? counted || 'from_closed' : '' },
      }),
  });
  return (
    <FormSheet of={form} title={entry.label} act="Save" done={done}>
      <div className="cells">
        <TextField of={form} name="lowest" label="Lower end" unit={shown.symbol} />
        <TextField of={form} name="highest" label="Upper end" unit={shown.symbol} />
        {entry.shape === 'corner' && range && (
          <SelectField
            of={form}
            name="place"
            label="Where"
            options={[
              ['', 'everywhere'],
              ...dictionary.places(name).map((one) => [one, `${one} alone`] as const),
            ]}
          />
        )}
        {clicks && <SelectField of={form} name="counted" label="Counted" options={COUNTINGS} />}
      </div>
    </FormSheet>
  );
}
