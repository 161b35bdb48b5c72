/** The stores: the springs there are to choose from. */
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { ask, client } from '../lib/client';
import { useBench } from '../bench/bench';
import { Choose, Field, FormSheet, problemOf } from '../ui/fields';
import { useMay } from '../lib/me';
import { Empty } from '../ui/states';
import { Notice } from '../ui/marks';
import { showValue, useDictionary } from '../lib/vocabulary';

const EMPTY = {
  code: '',
  rate: '',
  free_length: '',
  solid_length: '',
  fits: 'both' as 'front' | 'rear' | 'both',
};

export function Stores() {
  const { bench, refresh } = useBench();
  const dictionary = useDictionary();
  const may = useMay('give');
  const rate = dictionary.shown('rate', bench.profile);
  const length = dictionary.shown('dimension', bench.profile);
  const remove = useMutation({
    mutationFn: (code: string) =>
      ask(
        client.POST('/api/cars/{car_id}/stores/springs/remove', {
          params: { path: { car_id: bench.id } },
          body: { code },
        }),
      ),
    onSuccess: refresh,
  });
  const springs = [...bench.springs].sort((a, b) => a.rate - b.rate);
  return (
    <section id="stores" className="stores">
      <h2>Springs in the stores</h2>
      {springs.length === 0 ? (
        <Empty title="The stores are empty.">
          Add the springs you own; each is then worked out on the springs station.
        </Empty>
      ) : (
        <table className="candidates">
          <thead>
            <tr>
              <th scope="col">Rate</th>
              <th scope="col">code</th>
              <th scope="col">free</th>
              <th scope="col">solid</th>
              <th scope="col">fits</th>
              <th scope="col">
                <span className="visually-hidden">Take out</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {springs.map((one) => (
              <tr key={one.code}>
                <th scope="row">
                  {showValue(one.rate, rate)} <small>{rate.symbol}</small>
                </th>
                <td>{one.code}</td>
                <td>
                  {one.free_length === null
                    ? '–'
                    : `${showValue(one.free_length, length)} ${length.symbol}`}
                </td>
                <td>
                  {one.solid_length === null
                    ? '–'
                    : `${showValue(one.solid_length, length)} ${length.symbol}`}
                </td>
                <td>{one.fits}</td>
                <td className="fit">
                  {one.worn ? (
                    <small>in a revision</small>
                  ) : (
                    may && (
                      <button
                        type="button"
                        className="quiet"
                        onClick={() => remove.mutate(one.code)}
                      >
                        Take out<span className="visually-hidden"> {one.code}</span>
                      </button>
                    )
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {remove.error && <Notice tone="draft">{remove.error.message}</Notice>}
      {may && <AddSpring />}
    </section>
  );
}

function AddSpring() {
  const { bench, refresh } = useBench();
  const dictionary = useDictionary();
  const [spring, setSpring] = useState(EMPTY);
  const add = useMutation({
    mutationFn: (confirmed?: boolean) =>
      ask(
        client.POST('/api/cars/{car_id}/stores/springs', {
          params: { path: { car_id: bench.id } },
          body: { ...spring, confirmed: confirmed ?? false },
        }),
      ),
    onSuccess: async () => {
      setSpring(EMPTY);
      await refresh();
    },
  });
  const rate = dictionary.shown('rate', bench.profile).symbol;
  const length = dictionary.shown('dimension', bench.profile).symbol;
  const fields = [
    ['code', 'Code', undefined],
    ['rate', 'Rate', rate],
    ['free_length', 'Free length', length],
    ['solid_length', 'Solid length', length],
  ] as const;
  const confirm = { words: 'It is so: add it', act: () => add.mutate(true) };
  return (
    <FormSheet title="Add a spring" act="Put it into the stores" save={add} confirm={confirm}>
      <div className="cells">
        {fields.map(([key, label, unit]) => (
          <Field
            key={key}
            id={`spring-${key}`}
            field={key}
            label={label}
            unit={unit}
            value={spring[key]}
            problem={problemOf(add.error)}
            set={(value) => {
              add.reset();
              setSpring({ ...spring, [key]: value });
            }}
          />
        ))}
        <Choose
          id="spring-fits"
          label="Fits"
          value={spring.fits}
          set={(fits) => setSpring({ ...spring, fits })}
          options={[
            ['both', 'both axles'],
            ['front', 'front'],
            ['rear', 'rear'],
          ]}
        />
      </div>
    </FormSheet>
  );
}
