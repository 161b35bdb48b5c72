/** Taking a reading: the numbers in the corners' places, settles repeated, conditions ticked. */
import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { ask, client, Problem, type NumberName } from '../lib/client';
import { useBench } from '../bench/bench';
import { Notice } from '../ui/marks';
import { showValue, useDictionary } from '../lib/vocabulary';

type Cells = Record<string, string>;

/** What is typed is kept on this device until it is taken, so that a reload loses nothing. */
function useKept<T>(key: string, start: T): [T, (value: T) => void] {
  const [value, setValue] = useState<T>(() => {
    const kept = sessionStorage.getItem(key);
    return kept ? (JSON.parse(kept) as T) : start;
  });
  useEffect(() => sessionStorage.setItem(key, JSON.stringify(value)), [key, value]);
  return [value, setValue];
}

export function ReadingForm({ kind, done }: { kind: string; done: () => void }) {
  const { bench, refresh } = useBench();
  const dictionary = useDictionary();
  const row = dictionary.reading(kind);
  const name = row?.numbers[0];
  const places = name ? dictionary.places(name) : [];
  const key = `reading-${bench.id}-${kind}`;
  const [cells, setCells] = useKept<Cells[]>(`${key}-cells`, [{}]);
  const [held, setHeld] = useKept<Record<string, boolean>>(`${key}-held`, {});
  const [fuel, setFuel] = useKept<string>(`${key}-fuel`, '');
  const [note, setNote] = useKept<string>(`${key}-note`, '');
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => first.current?.focus(), []);
  const take = useMutation({
    mutationFn: (confirmed: boolean) =>
      ask(
        client.POST('/api/cars/{car_id}/readings', {
          params: { path: { car_id: bench.id } },
          body: {
            kind,
            settles: name
              ? { [name]: cells.map((cell) => places.map((place) => cell[place] ?? '')) }
              : {},
            conditions: held,
            fuel: fuel || null,
            note,
            confirmed,
          },
        }),
      ),
    onSuccess: async () => {
      for (const part of ['cells', 'held', 'fuel', 'note'])
        sessionStorage.removeItem(`${key}-${part}`);
      await refresh();
      done();
    },
  });
  if (!row) return null;
  const problem = take.error instanceof Problem ? take.error : null;
  const shown = name ? dictionary.shown(dictionary.entry(name).quantity, bench.profile) : null;
  const fuelUnit = dictionary.shown('mass', bench.profile);
  const unmet = row.conditions.filter((one) => !held[one]);
  const loose = problem?.errors.filter((error) => !error.place || error.number !== name) ?? [];
  return (
    <Form
      className="reading-form"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        take.mutate(false);
      }}
    >
      <h2>{row.numbers.length ? `Read: ${row.label.toLowerCase()}` : row.label}</h2>
      <p className="hint">{row.how}</p>
      {name &&
        cells.map((cell, turn) => (
          <fieldset key={turn} className={`settle settle-${places.length}`}>
            {cells.length > 1 && <legend>Settle {turn + 1}</legend>}
            {places.map((place, i) => {
              const at = turn ? `${place} ${turn + 1}` : place;
              const said = problem?.at(name, at);
              const id = `${kind}-${turn}-${place}`;
              return (
                <div key={place} className={`cell${said ? ' has-problem' : ''}`}>
                  <label htmlFor={id}>
                    {place === 'car' ? dictionary.entry(name).label : place}
                  </label>
                  <span className="given-box">
                    <input
                      id={id}
                      ref={turn === 0 && i === 0 ? first : undefined}
                      inputMode="decimal"
                      autoComplete="off"
                      value={cell[place] ?? ''}
                      aria-invalid={said !== undefined}
                      aria-describedby={`${id}-said`}
                      onChange={(event) => {
                        take.reset();
                        setCells(
                          cells.map((one, n) =>
                            n === turn ? { ...one, [place]: event.target.value } : one,
                          ),
                        );
                      }}
                    />
                    <small>{shown?.symbol}</small>
                  </span>
                  <span id={`${id}-said`} className="field-said" role={said ? 'alert' : undefined}>
                    {said}
                  </span>
                </div>
              );
            })}
          </fieldset>
        ))}
      {name && (
        <p className="settle-acts">
          <button
            type="button"
            className="quiet"
            disabled={cells.length >= 5}
            onClick={() => setCells([...cells, {}])}
          >
            Add a settle
          </button>
          {cells.length > 1 && (
            <button type="button" className="quiet" onClick={() => setCells(cells.slice(0, -1))}>
              Drop the last
            </button>
          )}
        </p>
      )}
      {row.conditions.length > 0 && (
        <fieldset className="conditions">
          <legend>Conditions</legend>
          {row.conditions.map((one) => {
            const condition = dictionary.data.conditions.find((entry) => entry.id === one);
            return (
              <Form.Check
                key={one}
                id={`${kind}-${one}`}
                label={
                  <>
                    {condition?.label} <small>{condition?.why}</small>
                  </>
                }
                checked={held[one] ?? false}
                onChange={(event) => setHeld({ ...held, [one]: event.target.checked })}
              />
            );
          })}
          {kind === 'pads' && (
            <div className="cell cell-fuel">
              <label htmlFor="pads-fuel">Fuel aboard, or ballast for it</label>
              <span className="given-box">
                <input
                  id="pads-fuel"
                  inputMode="decimal"
                  value={fuel}
                  onChange={(event) => setFuel(event.target.value)}
                />
                <small>{fuelUnit.symbol}</small>
              </span>
              <span className="field-said">{problem?.at('fuel_mass')}</span>
            </div>
          )}
        </fieldset>
      )}
      <label htmlFor={`${kind}-note`}>Note</label>
      <input
        id={`${kind}-note`}
        className="text-input"
        value={note}
        onChange={(event) => setNote(event.target.value)}
      />
      {unmet.length > 0 && name && (
        <Notice>
          {unmet.length === row.conditions.length
            ? 'No condition is ticked'
            : 'Not every condition is ticked'}
          : the reading will stand as doubtful.
        </Notice>
      )}
      {problem && (problem.errors.length === 0 || loose.length > 0) && (
        <Notice tone="draft">
          {loose.map((error) => error.detail).join(' ') || problem.detail}
        </Notice>
      )}
      <div className="form-acts">
        {problem?.asksToConfirm ? (
          <Button variant="dark" onClick={() => take.mutate(true)}>
            It is so: take it
          </Button>
        ) : (
          <Button type="submit" variant="dark" disabled={take.isPending}>
            {name ? 'Take the reading' : 'Checked, it holds'}
          </Button>
        )}
        <Button variant="link" onClick={done}>
          Leave it
        </Button>
      </div>
    </Form>
  );
}

export function showNumber(
  dictionary: ReturnType<typeof useDictionary>,
  profile: string,
  name: NumberName,
  si: number,
) {
  return showValue(si, dictionary.shown(dictionary.entry(name).quantity, profile));
}
