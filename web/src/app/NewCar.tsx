/** A new car: what it is. Its numbers are given on its own pages, each named while it is missing. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate } from 'react-router';
import { ask, client, Problem } from '../api/client';
import { garageQuery } from '../api/queries';
import { Notice } from '../numbers/marks';
import { useDictionary } from '../numbers/vocabulary';

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
  const said = add.error instanceof Problem ? add.error.at('name') : undefined;
  return (
    <form
      className="inline-form"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        add.mutate();
      }}
    >
      <h2>New car</h2>
      <div className="cells">
        <div className={`cell${said ? ' has-problem' : ''}`}>
          <label htmlFor="car-name">Name</label>
          <input
            id="car-name"
            className="text-input"
            autoFocus
            value={name}
            aria-describedby="car-name-said"
            onChange={(event) => setName(event.target.value)}
          />
          <span id="car-name-said" className="field-said" role={said ? 'alert' : undefined}>
            {said}
          </span>
        </div>
        <div className="cell">
          <label htmlFor="car-number">Number</label>
          <input
            id="car-number"
            className="text-input"
            value={number}
            onChange={(event) => setNumber(event.target.value)}
          />
        </div>
        <Choose id="car-discipline" label="Discipline" value={discipline} set={setDiscipline}>
          {DISCIPLINES.map((one) => [one, one])}
        </Choose>
        <Choose id="car-layout" label="Rear suspension" value={layout} set={setLayout}>
          {LAYOUTS.map((one) => [one, one.replaceAll('_', ' ')])}
        </Choose>
        <Choose id="car-profile" label="Units" value={profile} set={setProfile}>
          {Object.entries(dictionary.data.profiles)}
        </Choose>
      </div>
      {add.error && !said && <Notice tone="draft">{add.error.message}</Notice>}
      <div className="form-acts">
        <Button type="submit" variant="dark" disabled={add.isPending}>
          Add the car
        </Button>
        <Button variant="link" onClick={done}>
          Leave it
        </Button>
      </div>
    </form>
  );
}

interface ChooseProps<T extends string> {
  id: string;
  label: string;
  value: T;
  set: (value: T) => void;
  children: [string, string][];
}

function Choose<T extends string>({ id, label, value, set, children }: ChooseProps<T>) {
  return (
    <div className="cell">
      <label htmlFor={id}>{label}</label>
      <select id={id} value={value} onChange={(event) => set(event.target.value as T)}>
        {children.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </div>
  );
}
