/** The car's own data and the stores: what every figure starts from. */
import { useMutation } from '@tanstack/react-query';
import { useEffect } from 'react';
import { useLocation } from 'react-router';
import { ask, client, type NumberName } from '../lib/client';
import { useBench } from '../bench/bench';
import { Choose } from '../ui/fields';
import { useMay } from '../lib/me';
import { Moment } from '../ui/states';
import { GivenFields } from '../bench/GivenField';
import { Notice } from '../ui/marks';
import { useDictionary } from '../lib/vocabulary';
import { Adjusters } from './Adjusters';
import { Stores } from './Stores';

export function CarData() {
  const { hash } = useLocation();
  const { bench } = useBench();
  const groups = GROUPS.filter(({ id }) => id !== 'links' || bench.rear_layout !== 'independent');
  useEffect(() => {
    if (!hash) return;
    const target = document.getElementById(decodeURIComponent(hash.slice(1)));
    target?.closest('details')?.setAttribute('open', '');
    target?.scrollIntoView({ block: 'center' });
    // A panel that led here keeps the focus until it has slid away.
    const timer = setTimeout(() => target?.querySelector('input')?.focus(), 300);
    return () => clearTimeout(timer);
  }, [hash]);
  return (
    <article className="car-data">
      <div className="sheet-head">
        <h1>Car and stores</h1>
        <p>
          Type any unit with the number: 98 1/8 in, 9 kgf/mm, 240 N/mm. Each is saved as you leave
          it.
        </p>
      </div>
      <Settings />
      {groups.map(({ id, title }) => (
        <GivenGroup key={id} id={id} title={title} />
      ))}
      <Stores />
      <Adjusters />
    </article>
  );
}

/** What one look at the car gives. The first groups are open: the others are for later. */
const GROUPS = [
  { id: 'car', title: 'The whole car' },
  { id: 'suspension', title: 'Suspension and tyres' },
  { id: 'links', title: 'Links, pinion and what locates the axle' },
  { id: 'aero', title: 'Downforce and clearance' },
  { id: 'asked', title: 'Shown at: cornering, launch, braking, speed' },
];
const OPEN = ['car', 'suspension'];

function GivenGroup({ id, title }: { id: string; title: string }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const names: NumberName[] = dictionary.data.numbers
    .filter((entry) => entry.group === id)
    .map((entry) => entry.name);
  if (id === 'suspension') names.push('target_frequency');
  const written = names.filter((name) => bench.given[name]?.values.some((one) => one !== null));
  return (
    <details className="given-block" open={OPEN.includes(id)}>
      <summary>
        <h2>{title}</h2>
        <small>
          {written.length} of {names.length} given
        </small>
      </summary>
      <ul className="given-list">
        {names.map((name) => (
          <li key={name}>
            <div className="given-group">
              <GivenFields name={name} />
            </div>
            <GivenNote name={name} />
          </li>
        ))}
      </ul>
    </details>
  );
}

function GivenNote({ name }: { name: NumberName }) {
  const { bench, refresh } = useBench();
  const dictionary = useDictionary();
  const may = useMay('give');
  const entry = dictionary.entry(name);
  const given = bench.given[name];
  const mark = useMutation({
    mutationFn: (estimated: boolean) =>
      ask(
        client.PATCH('/api/cars/{car_id}/given', {
          params: { path: { car_id: bench.id } },
          body: { estimated: { [name]: estimated } },
        }),
      ),
    onSuccess: refresh,
  });
  return (
    <p className="given-note">
      {entry.help}
      {given?.at && (
        <span>
          <Moment at={given.at} by={given.by} />
        </span>
      )}
      {given && entry.kind === 'given' && (
        <label>
          <input
            type="checkbox"
            disabled={!may}
            checked={given.estimated}
            onChange={(event) => mark.mutate(event.target.checked)}
          />{' '}
          an estimate
        </label>
      )}
      {mark.error && <Notice tone="draft">{mark.error.message}</Notice>}
    </p>
  );
}

function Settings() {
  const { bench, refresh } = useBench();
  const dictionary = useDictionary();
  const may = useMay('give');
  const settle = useMutation({
    mutationFn: (body: { profile?: string; use?: string }) =>
      ask(
        client.PATCH('/api/cars/{car_id}/settings', {
          params: { path: { car_id: bench.id } },
          body,
        }),
      ),
    onSuccess: refresh,
  });
  const uses = dictionary.data.uses.filter((one) => one.disciplines.includes(bench.discipline));
  return (
    <div className="car-settings">
      <Choose
        id="profile"
        label="Units"
        disabled={!may}
        value={bench.profile}
        set={(profile) => settle.mutate({ profile })}
        options={Object.entries(dictionary.data.profiles)}
      />
      <Choose
        id="use"
        label="Use, which picks its bands"
        disabled={!may}
        value={bench.use}
        set={(use) => settle.mutate({ use })}
        options={uses.map((one) => [one.id, one.label])}
      />
      <p>
        {words(bench.front_layout)} front, {words(bench.rear_layout)} rear, driven at{' '}
        {bench.driven === 'all' ? 'all four' : `the ${bench.driven}`}.{' '}
        <a href={`/api/cars/${bench.id}/file`} download>
          Export car file
        </a>
      </p>
      {settle.error && <Notice tone="draft">{settle.error.message}</Notice>}
    </div>
  );
}

function words(layout: string): string {
  return layout.replaceAll('_', ' ');
}
