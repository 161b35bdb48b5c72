/** One setting as it stands on the car: typed, or chosen where it is a part. */
import { saidAt, type NumberName, type Problem } from '../lib/client';
import { useDictionary } from '../lib/vocabulary';
import { useBench } from './bench';
import { blockedBy, wayOf } from './ways';

interface CellProps {
  name: NumberName;
  place: string;
  value: string;
  set: (value: string) => void;
  problem: Problem | null;
}

export function AsFoundCell({ name, place, value, set, problem }: CellProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const way = wayOf(dictionary, bench, name, place);
  const said = saidAt(problem, name, place);
  const id = `as-found-${name}-${place}`;
  const blocked = blockedBy(bench, dictionary, name, place);
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
            disabled={blocked !== ''}
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
        {said ?? blocked}
      </span>
    </div>
  );
}
