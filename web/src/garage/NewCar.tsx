/**
 * A new car: who it is and, if at hand, the few numbers that say most. Typical values stand in for
 * everything else, marked as estimates, so that every station works at once.
 */
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import Button from 'react-bootstrap/Button';
import { useForm, type Path } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { api, saidAt } from '../lib/client';
import { garageQuery } from '../lib/queries';
import { capital } from '../lib/format';
import { CORNERS, PLACE_WORDS, useDictionary } from '../lib/vocabulary';
import { layoutWords } from '../ui/fields';
import { Notice } from '../ui/marks';

interface Values {
  name: string;
  race_number: string;
  discipline: string;
  use: string;
  driven: string;
  front_layout: string;
  rear_layout: string;
  profile: string;
  pads: { LF: string; RF: string; LR: string; RR: string };
  wheelbase: string;
  track: { front: string; rear: string };
}

const START: Values = {
  name: '',
  race_number: '',
  discipline: 'circuit',
  use: '',
  driven: 'rear',
  front_layout: 'independent',
  rear_layout: 'independent',
  profile: 'n_mm',
  pads: { LF: '', RF: '', LR: '', RR: '' },
  wheelbase: '',
  track: { front: '', rear: '' },
};

export function NewCar({ done }: { done: () => void }) {
  const dictionary = useDictionary();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const form = useForm<Values>({ defaultValues: START });
  const { discipline, profile } = form.watch();
  const uses = dictionary.data.uses.filter((one) => one.disciplines.includes(discipline));
  const add = api.useMutation('post', '/api/cars', {
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: garageQuery.queryKey });
      await navigate(`/cars/${made.id}/plan`);
    },
  });
  const send = (confirmed: boolean) =>
    form.handleSubmit((values) => {
      const given: Record<string, (string | null)[]> = {};
      if (values.wheelbase.trim()) given.wheelbase = [values.wheelbase];
      if (values.track.front.trim() || values.track.rear.trim())
        given.track = [values.track.front || null, values.track.rear || null];
      const pads = CORNERS.map((place) => values.pads[place].trim());
      add.mutate({
        body: {
          name: values.name,
          race_number: values.race_number,
          discipline: values.discipline,
          use: uses.some((one) => one.id === values.use) ? values.use : '',
          driven: values.driven,
          front_layout: values.front_layout,
          rear_layout: values.rear_layout,
          profile: values.profile,
          given,
          pads: pads.some(Boolean) ? pads : null,
          confirmed,
        },
      });
    })();
  const sheet = useRef<HTMLFormElement>(null);
  useEffect(() => sheet.current?.querySelector('input')?.focus(), []);
  const problem = add.error;
  const choose = (field: keyof Values, label: string, options: [string, string][]) => (
    <div className={`cell${saidAt(problem, field) ? ' has-problem' : ''}`}>
      <label htmlFor={`car-${field}`}>{label}</label>
      <select id={`car-${field}`} {...form.register(field)}>
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
      <span className="field-said">{saidAt(problem, field)}</span>
    </div>
  );
  const type = (
    field: Path<Values>,
    label: string,
    number: string,
    place?: string,
    unit?: string,
  ) => {
    const words = saidAt(problem, number, place);
    const id = `car-${field.replace('.', '-')}`;
    return (
      <div className={`cell${words ? ' has-problem' : ''}`}>
        <label htmlFor={id}>{label}</label>
        <span className="given-box">
          <input
            id={id}
            className={unit === undefined ? 'text-input' : undefined}
            autoComplete="off"
            aria-invalid={words !== undefined}
            {...form.register(field, { onChange: () => add.reset() })}
          />
          {unit && <small>{unit}</small>}
        </span>
        <span className="field-said" role={words ? 'alert' : undefined}>
          {words}
        </span>
      </div>
    );
  };
  const mass = dictionary.shown('mass', profile).symbol;
  const length = dictionary.shown('dimension', profile).symbol;
  const fromChoices = (field: string): [string, string][] =>
    (dictionary.data.choices[field] ?? []).map((one) => [one, layoutWords(one)]);
  return (
    <form
      ref={sheet}
      className="inline-form new-car"
      noValidate
      aria-label="New car"
      onSubmit={(event) => {
        event.preventDefault();
        void send(false);
      }}
    >
      <h2>New car</h2>
      <div className="cells">
        {type('name', 'Name', 'name')}
        {type('race_number', 'Number', 'race_number')}
        {choose(
          'discipline',
          'Discipline',
          dictionary.data.disciplines.map((one) => [one.id, one.label]),
        )}
        {choose('use', 'Car type', [
          ['', 'usual'],
          ...uses.map((one) => [one.id, one.label] as [string, string]),
        ])}
        {choose('driven', 'Driven axle', fromChoices('driven'))}
        {choose('front_layout', 'Front suspension', fromChoices('front_layout'))}
        {choose('rear_layout', 'Rear suspension', fromChoices('rear_layout'))}
        {choose('profile', 'Units', Object.entries(dictionary.data.profiles))}
      </div>
      <h3>If at hand</h3>
      <p className="hint">
        Typical values stand in for all that is not, each marked as an estimate until you measure
        it.
      </p>
      <div className="cells cells-small">
        {CORNERS.map((place) => (
          <span key={place}>
            {type(
              `pads.${place}`,
              `${capital(PLACE_WORDS[place] ?? place)} weight`,
              'pad_mass',
              place,
              mass,
            )}
          </span>
        ))}
        {type('wheelbase', 'Wheelbase', 'wheelbase', 'car', length)}
        {type('track.front', 'Front track', 'track', 'front', length)}
        {type('track.rear', 'Rear track', 'track', 'rear', length)}
      </div>
      {problem && problem.errors.length === 0 && <Notice tone="draft">{problem.detail}</Notice>}
      <div className="form-acts">
        {problem?.asksToConfirm ? (
          <Button variant="dark" onClick={() => void send(true)}>
            Use these anyway
          </Button>
        ) : (
          <Button type="submit" variant="dark" disabled={add.isPending}>
            Add the car
          </Button>
        )}
        <Button variant="link" onClick={done}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
