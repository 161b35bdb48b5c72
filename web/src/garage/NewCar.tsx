/**
 * A new car: who it is and, if at hand, the few numbers that say most. Typical values stand in for
 * everything else, marked as estimates, so that every station works at once.
 */
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { type Path } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { api, type Schemas } from '../lib/client';
import { garageQuery } from '../lib/queries';
import { capital } from '../lib/format';
import { CORNERS, PLACE_WORDS, useDictionary } from '../lib/vocabulary';
import { layoutWords } from '../ui/fields';
import { FormSheet, SelectField, TextField, useApiForm, type ApiForm } from '../ui/form';

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

/** What is sent: an empty field was not at hand. */
function bodyOf(values: Values, use: string, confirmed: boolean): Schemas['CarIn'] {
  const given: Record<string, (string | null)[]> = {};
  const { wheelbase, track } = values;
  if (wheelbase.trim()) given.wheelbase = [wheelbase];
  if (track.front.trim() || track.rear.trim())
    given.track = [track.front || null, track.rear || null];
  const pads = CORNERS.map((place) => values.pads[place].trim());
  return {
    name: values.name,
    race_number: values.race_number,
    discipline: values.discipline,
    use,
    driven: values.driven,
    front_layout: values.front_layout,
    rear_layout: values.rear_layout,
    profile: values.profile,
    given,
    pads: pads.some(Boolean) ? pads : null,
    confirmed,
  };
}

export function NewCar({ done }: { done: () => void }) {
  const dictionary = useDictionary();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const add = api.useMutation('post', '/api/cars', {
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: garageQuery.queryKey });
      await navigate(`/cars/${made.id}/plan`);
    },
  });
  const usesOf = (discipline: string) =>
    dictionary.data.uses.filter((one) => one.disciplines.includes(discipline));
  const form = useApiForm<Values>({
    id: 'car',
    defaults: START,
    save: add,
    send: (values, confirmed) => {
      const use = usesOf(values.discipline).find((one) => one.id === values.use)?.id ?? '';
      add.mutate({ body: bodyOf(values, use, confirmed) });
    },
  });
  useFollowDiscipline(form);
  return (
    <FormSheet
      of={form}
      title="New car"
      act="Add the car"
      confirm="Use these anyway"
      done={done}
      className="new-car"
    >
      <WhatItIs of={form} uses={usesOf(form.values.watch('discipline'))} />
      <AtHand of={form} />
    </FormSheet>
  );
}

/** Units and rear suspension as such a car usually has them, until somebody chose otherwise. */
function useFollowDiscipline({ values }: ApiForm<Values>) {
  const dictionary = useDictionary();
  const { discipline, rear_layout: rear } = values.watch();
  const { profile, layouts } = dictionary.discipline(discipline);
  // what stands there and was not put there by this was chosen
  const followed = useRef(values.getValues('profile'));
  useEffect(() => {
    if (values.getValues('profile') !== followed.current) return;
    values.setValue('profile', profile);
    followed.current = profile;
  }, [values, profile]);
  useEffect(() => {
    const first = layouts[0];
    if (first && !layouts.includes(rear)) values.setValue('rear_layout', first);
  }, [values, layouts, rear]);
}

interface PartProps {
  of: ApiForm<Values>;
}

/** Who it is, and how it is built. */
function WhatItIs({ of, uses }: PartProps & { uses: Schemas['UseEntry'][] }) {
  const dictionary = useDictionary();
  const choices = (field: string): [string, string][] =>
    (dictionary.data.choices[field] ?? []).map((one) => [one, layoutWords(one)]);
  const rear = dictionary
    .rearLayouts(of.values.watch('discipline'))
    .map((one) => [one, layoutWords(one)] as const);
  return (
    <div className="cells">
      <TextField of={of} name="name" label="Name" />
      <TextField of={of} name="race_number" label="Number" />
      <SelectField
        of={of}
        name="discipline"
        label="Discipline"
        options={dictionary.data.disciplines.map((one) => [one.id, one.label])}
      />
      <SelectField
        of={of}
        name="use"
        label="Car type"
        options={[['', 'usual'], ...uses.map((one) => [one.id, one.label] as const)]}
      />
      <SelectField of={of} name="driven" label="Driven axle" options={choices('driven')} />
      <SelectField
        of={of}
        name="front_layout"
        label="Front suspension"
        options={choices('front_layout')}
      />
      <SelectField of={of} name="rear_layout" label="Rear suspension" options={rear} />
      <SelectField
        of={of}
        name="profile"
        label="Units"
        options={Object.entries(dictionary.data.profiles)}
      />
    </div>
  );
}

const LENGTHS: [Path<Values>, string, string, string][] = [
  ['wheelbase', 'Wheelbase', 'wheelbase', 'car'],
  ['track.front', 'Front track', 'track', 'front'],
  ['track.rear', 'Rear track', 'track', 'rear'],
];

/** The few numbers that say most. */
function AtHand({ of }: PartProps) {
  const dictionary = useDictionary();
  const profile = of.values.watch('profile');
  const mass = dictionary.shown('mass', profile).symbol;
  const length = dictionary.shown('dimension', profile).symbol;
  return (
    <>
      <h3>If at hand</h3>
      <p className="hint">
        Typical values stand in for all that is not, each marked as an estimate until you measure
        it.
      </p>
      <div className="cells cells-small">
        {CORNERS.map((place) => (
          <TextField
            key={place}
            of={of}
            name={`pads.${place}`}
            label={`${capital(PLACE_WORDS[place] ?? place)} weight`}
            number="pad_mass"
            place={place}
            unit={mass}
          />
        ))}
        {LENGTHS.map(([name, label, number, place]) => (
          <TextField
            key={name}
            of={of}
            name={name}
            label={label}
            number={number}
            place={place}
            unit={length}
          />
        ))}
      </div>
    </>
  );
}
