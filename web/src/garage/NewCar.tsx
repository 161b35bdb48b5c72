/** A new car: what it is. Its numbers are given on its own pages, each named while it is missing. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ask, client } from '../lib/client';
import { garageQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { Choose, Field, FormSheet, problemOf } from '../ui/fields';

const DISCIPLINES = ['circuit', 'drag', 'drift'] as const;
const LAYOUTS = [
  'independent',
  'parallel_four_link',
  'triangulated_four_link',
  'three_link',
  'torque_arm',
  'leaf',
];

export function NewCar({ done }: { done: () => void }) {
  const dictionary = useDictionary();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [name, setName] = useState('');
  const [number, setNumber] = useState('');
  const [discipline, setDiscipline] = useState<(typeof DISCIPLINES)[number]>('circuit');
  const [layout, setLayout] = useState('independent');
  const [profile, setProfile] = useState('n_mm');
  const add = useMutation({
    mutationFn: () =>
      ask(
        client.POST('/api/cars', {
          body: { name, race_number: number, discipline, rear_layout: layout, profile },
        }),
      ),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: garageQuery.queryKey });
      await navigate(`/cars/${made.id}/data`);
    },
  });
  const problem = problemOf(add.error);
  return (
    <FormSheet title="New car" act="Add the car" save={add} done={done}>
      <div className="cells">
        <Field
          id="car-name"
          field="name"
          label="Name"
          value={name}
          set={setName}
          problem={problem}
        />
        <Field
          id="car-number"
          field="race_number"
          label="Number"
          value={number}
          set={setNumber}
          problem={problem}
        />
        <Choose
          id="car-discipline"
          label="Discipline"
          value={discipline}
          set={setDiscipline}
          options={DISCIPLINES.map((one) => [one, one])}
        />
        <Choose
          id="car-layout"
          label="Rear suspension"
          value={layout}
          set={setLayout}
          options={LAYOUTS.map((one) => [one, one.replaceAll('_', ' ')])}
        />
        <Choose
          id="car-profile"
          label="Units"
          value={profile}
          set={setProfile}
          options={Object.entries(dictionary.data.profiles)}
        />
      </div>
    </FormSheet>
  );
}
