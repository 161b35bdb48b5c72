/** Settings that nobody has written down, taken as they stand on the car and not as a change. */
import Button from 'react-bootstrap/Button';
import { api, saidAt, type NumberName } from '../lib/client';
import { useMay } from '../lib/me';
import { useDictionary } from '../lib/vocabulary';
import { Cell } from '../ui/fields';
import { OtherProblems, useApiForm, useField, type ApiForm } from '../ui/form';
import { useBench, useSaved } from './bench';
import { useWay } from './ways';

interface Props {
  asked: { name: NumberName; place: string }[];
  /** Told how many were written down. */
  done: (count: number) => void;
}

/** What is typed, by number and place. */
type Values = Record<string, Record<string, string>>;

export function AsFoundForm({ asked, done }: Props) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const may = useMay('draft');
  const changesOf = (typed: Values) =>
    asked.flatMap(({ name, place }) => {
      const text = typed[name]?.[place]?.trim();
      return text ? [{ name, place, new: text }] : [];
    });
  const save = api.useMutation(
    'post',
    '/api/cars/{car_id}/as-found',
    useSaved(() => {
      const count = changesOf(form.values.getValues()).length;
      form.values.reset();
      done(count);
    }),
  );
  const form = useApiForm<Values>({
    id: 'as-found',
    defaults: {},
    save,
    send: (typed) =>
      save.mutate({
        params: { path: { car_id: bench.id } },
        body: { changes: changesOf(typed) },
      }),
  });
  const count = changesOf(form.values.watch()).length;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        form.send(false);
      }}
    >
      {[...new Set(asked.map((one) => one.name))].map((name) => (
        <fieldset key={name} className="as-found" disabled={!may}>
          <legend>{dictionary.entry(name).label}</legend>
          {asked
            .filter((one) => one.name === name)
            .map(({ place }) => (
              <SettingCell key={place} of={form} name={name} place={place} />
            ))}
        </fieldset>
      ))}
      <OtherProblems of={form} />
      {may && (
        <Button type="submit" variant="dark" disabled={count === 0 || save.isPending}>
          This is on the car now
          {count > 0 && <small> {count} settings</small>}
        </Button>
      )}
    </form>
  );
}

interface CellProps {
  of: ApiForm<Values>;
  name: NumberName;
  place: string;
}

/** One setting as it stands on the car: typed, or chosen where it is a part. */
function SettingCell({ of, name, place }: CellProps) {
  const dictionary = useDictionary();
  const way = useWay(name, place);
  useField(of, name, place);
  const said = saidAt(of.problem, name, place);
  const id = `as-found-${name}-${place}`;
  const field = of.values.register(`${name}.${place}`, { onChange: of.changed });
  const { label, is_part } = dictionary.entry(name);
  return (
    <Cell
      id={id}
      label={place === 'car' ? <span className="visually-hidden">{label}</span> : place}
      said={said}
      hint={way.blocked}
    >
      <span className="given-box">
        {is_part ? (
          <select id={id} {...field}>
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
            autoComplete="off"
            inputMode="decimal"
            aria-invalid={said !== undefined}
            aria-describedby={`${id}-said`}
            {...field}
            disabled={way.blocked !== ''}
          />
        )}
        {way.unit && <small>{way.unit}</small>}
      </span>
    </Cell>
  );
}
