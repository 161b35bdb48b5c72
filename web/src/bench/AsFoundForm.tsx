/** Settings that nobody has written down, taken as they stand on the car and not as a change. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { api, saidAt, type NumberName, type Problem } from '../lib/client';
import { useMay } from '../lib/me';
import { useDictionary } from '../lib/vocabulary';
import { Notice } from '../ui/marks';
import { useBench, useSaved } from './bench';
import { useWay } from './ways';

interface Props {
  asked: { name: NumberName; place: string }[];
  /** Told how many were written down. */
  done: (count: number) => void;
}

export function AsFoundForm({ asked, done }: Props) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const may = useMay('draft');
  const [typed, setTyped] = useState<Record<string, string>>({});
  const said = ({ name, place }: { name: NumberName; place: string }) =>
    typed[`${name} ${place}`]?.trim() ?? '';
  const changes = asked.filter(said).map((one) => ({ ...one, new: said(one) }));
  const save = api.useMutation(
    'post',
    '/api/cars/{car_id}/as-found',
    useSaved(() => {
      setTyped({});
      done(changes.length);
    }),
  );
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate({ params: { path: { car_id: bench.id } }, body: { changes } });
      }}
    >
      {[...new Set(asked.map((one) => one.name))].map((name) => (
        <fieldset key={name} className="as-found" disabled={!may}>
          <legend>{dictionary.entry(name).label}</legend>
          {asked
            .filter((one) => one.name === name)
            .map(({ place }) => (
              <Cell
                key={place}
                name={name}
                place={place}
                value={typed[`${name} ${place}`] ?? ''}
                set={(value) => setTyped({ ...typed, [`${name} ${place}`]: value })}
                problem={save.error}
              />
            ))}
        </fieldset>
      ))}
      {save.error && <Notice tone="draft">{save.error.message}</Notice>}
      {may && (
        <Button type="submit" variant="dark" disabled={changes.length === 0 || save.isPending}>
          This is on the car now
          {changes.length > 0 && <small> {changes.length} settings</small>}
        </Button>
      )}
    </form>
  );
}

interface CellProps {
  name: NumberName;
  place: string;
  value: string;
  set: (value: string) => void;
  problem: Problem | null;
}

/** One setting as it stands on the car: typed, or chosen where it is a part. */
function Cell({ name, place, value, set, problem }: CellProps) {
  const dictionary = useDictionary();
  const way = useWay(name, place);
  const said = saidAt(problem, name, place);
  const id = `as-found-${name}-${place}`;
  const label = place === 'car' ? dictionary.entry(name).label : place;
  return (
    <div className={`cell${said ? ' has-problem' : ''}`}>
      <label htmlFor={id} className={place === 'car' ? 'visually-hidden' : undefined}>
        {label}
      </label>
      <span className="given-box">
        {dictionary.entry(name).is_part ? (
          <select id={id} value={value} onChange={(event) => set(event.target.value)}>
            <option value="">–</option>
            {way.options.map((one) => (
              <option key={one.value} value={one.value}>
                {one.words}
              </option>
            ))}
          </select>
        ) : (
          <input
            id={id}
            value={value}
            disabled={way.blocked !== ''}
            autoComplete="off"
            inputMode="decimal"
            aria-invalid={said !== undefined}
            aria-describedby={`${id}-said`}
            onChange={(event) => set(event.target.value)}
          />
        )}
        {way.unit && <small>{way.unit}</small>}
      </span>
      <span id={`${id}-said`} className="field-said" role={said ? 'alert' : undefined}>
        {said ?? way.blocked}
      </span>
    </div>
  );
}
