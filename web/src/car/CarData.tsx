/** The car's own data: what it is, its facts and targets, its adjusters. */
import { useEffect, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { useBench, useSaved } from '../bench/bench';
import { GivenFields } from '../bench/GivenField';
import { api, type NumberName, type Schemas } from '../lib/client';
import { showPrecise } from '../lib/format';
import { useMay } from '../lib/me';
import { useDictionary } from '../lib/vocabulary';
import { Choose, layoutWords } from '../ui/fields';
import { Notice } from '../ui/marks';
import { Moment } from '../ui/states';
import { Adjusters } from './Adjusters';
import { notWrittenDown } from './AsFound';

export function CarData() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const { hash } = useLocation();
  const asked = decodeURIComponent(hash.slice(1));
  useEffect(() => {
    if (!asked) return;
    const target =
      document.getElementById(asked) ?? document.querySelector(`[id^="${CSS.escape(asked)}-"]`);
    target?.closest('details')?.setAttribute('open', '');
    target?.scrollIntoView({ block: 'center' });
    // A panel that led here keeps the focus until it has slid away.
    const timer = setTimeout(() => target?.querySelector('input')?.focus(), 300);
    return () => clearTimeout(timer);
  }, [asked]);
  const left = notWrittenDown(bench, (name) => dictionary.places(name)).length;
  return (
    <article className="car-data">
      <div className="sheet-head">
        <h1>Car data</h1>
        <p>
          Type any unit with the number: 98 1/8 in, 9 kgf/mm, 240 N/mm. Each is saved as you leave
          it.
        </p>
        {left > 0 && (
          <p>
            {left === 1 ? 'One setting is' : `${left} settings are`} not written down yet.{' '}
            <Link to={`/cars/${bench.id}/as-found`}>Write down what is on the car now</Link>
          </p>
        )}
      </div>
      <Settings />
      {GROUPS.map(({ id, title }) => (
        <GivenGroup key={id} id={id} title={title} />
      ))}
      <Adjusters />
    </article>
  );
}

/** What one look at the car gives. The first groups are open: the others are for later. */
const GROUPS = [
  { id: 'car', title: 'The whole car' },
  { id: 'suspension', title: 'Suspension and tyres' },
  { id: 'target', title: 'Targets' },
  { id: 'links', title: 'Links, pinion and what locates the axle' },
  { id: 'aero', title: 'Downforce and clearance' },
  { id: 'asked', title: 'Shown at: cornering, launch, braking, speed' },
];
const OPEN = ['car', 'suspension', 'target'];

function GivenGroup({ id, title }: { id: string; title: string }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const names: NumberName[] = dictionary.data.numbers
    .filter((entry) =>
      id === 'target'
        ? entry.kind === 'set' && entry.doors[bench.discipline]?.view === 'data'
        : entry.group === id,
    )
    .filter((entry) => !entry.layouts.length || entry.layouts.includes(bench.rear_layout))
    .map((entry) => entry.name);
  if (names.length === 0) return null;
  const written = names.filter((name) => bench.given[name]?.values.some((one) => one !== null));
  const guessed = names.filter((name) => bench.given[name]?.estimated.some(Boolean));
  return (
    <details className="given-block" open={OPEN.includes(id)}>
      <summary>
        <h2>{title}</h2>
        <small>
          {written.length - guessed.length} of {names.length} given
          {guessed.length > 0 && `, ${guessed.length} estimated`}
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
  const { bench } = useBench();
  const dictionary = useDictionary();
  const may = useMay('give');
  const entry = dictionary.entry(name);
  const given = bench.given[name];
  const mark = api.useMutation('patch', '/api/cars/{car_id}/given', useSaved());
  return (
    <p className="given-note">
      {entry.help}
      {given?.estimated.some(Boolean) && given.why && (
        <span>
          <b>Typical value.</b> {given.why}
        </span>
      )}
      {given?.why && !given.estimated.some(Boolean) && <span>{given.why}</span>}
      {given?.at && (
        <span>
          <Moment at={given.at} by={given.by} />
          {given.since > 0 && `, altered for revision ${given.since}`}
        </span>
      )}
      {given && given.was.length > 0 && <Previous name={name} />}
      {given && entry.kind === 'given' && (
        <label>
          <input
            type="checkbox"
            disabled={!may}
            checked={given.estimated.some(Boolean)}
            onChange={(event) =>
              mark.mutate({
                params: { path: { car_id: bench.id } },
                body: { estimated: { [name]: event.target.checked } },
              })
            }
          />{' '}
          an estimate
        </label>
      )}
      {mark.error && <Notice tone="draft">{mark.error.message}</Notice>}
    </p>
  );
}

/** What a fact was corrected from: the old values with who and when. */
function Previous({ name }: { name: NumberName }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const shown = dictionary.shown(dictionary.entry(name).quantity, bench.profile);
  return (
    <details className="was">
      <summary>
        Corrected <small>{bench.given[name]?.was.length}</small>
      </summary>
      <ul>
        {[...(bench.given[name]?.was ?? [])].reverse().map((one) => (
          <li key={one.at + one.values.join()}>
            {one.values.map((si) => (si === null ? '–' : showPrecise(si, shown))).join(' · ')}{' '}
            {shown.symbol}, <Moment at={one.at} by={one.by} />
          </li>
        ))}
      </ul>
    </details>
  );
}

type Told = Schemas['SettleIn'];

function Settings() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const may = useMay('give');
  const settle = api.useMutation('patch', '/api/cars/{car_id}/settings', useSaved());
  const tell = (body: Told) => settle.mutate({ params: { path: { car_id: bench.id } }, body });
  const uses = dictionary.data.uses.filter((one) => one.disciplines.includes(bench.discipline));
  const choices = (field: string): [string, string][] =>
    (dictionary.data.choices[field] ?? []).map((one) => [one, layoutWords(one)]);
  return (
    <div className="car-settings">
      <NameField id="car-name" label="Name" value={bench.name} save={(name) => tell({ name })} />
      <NameField
        id="car-number"
        label="Number"
        value={bench.race_number}
        save={(race_number) => tell({ race_number })}
      />
      <Choose
        id="profile"
        label="Units"
        disabled={!may}
        value={bench.profile}
        set={(profile) => tell({ profile })}
        options={Object.entries(dictionary.data.profiles)}
      />
      <Choose
        id="use"
        label="Car type (sets target ranges)"
        disabled={!may}
        value={bench.use}
        set={(use) => tell({ use })}
        options={uses.map((one) => [one.id, one.label])}
      />
      <Choose
        id="driven"
        label="Driven axle"
        disabled={!may}
        value={bench.driven}
        set={(driven) => tell({ driven })}
        options={choices('driven')}
      />
      <Choose
        id="front-layout"
        label="Front suspension"
        disabled={!may}
        value={bench.front_layout}
        set={(front_layout) => tell({ front_layout })}
        options={choices('front_layout')}
      />
      <Choose
        id="rear-layout"
        label="Rear suspension"
        disabled={!may}
        value={bench.rear_layout}
        set={(rear_layout) => tell({ rear_layout })}
        options={dictionary
          .rearLayouts(bench.discipline)
          .map((one) => [one, layoutWords(one)] as [string, string])}
      />
      <p>
        <a href={`/api/cars/${bench.id}/file`} download>
          Export car file
        </a>{' '}
        · <Link to={`/cars/${bench.id}/parts`}>Inventory</Link>
      </p>
      {settle.error && <Notice tone="draft">{settle.error.message}</Notice>}
    </div>
  );
}

function NameField(props: {
  id: string;
  label: string;
  value: string;
  save: (to: string) => void;
}) {
  const may = useMay('give');
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    if (typed !== null && typed !== props.value) props.save(typed);
    setTyped(null);
  };
  return (
    <div className="cell">
      <label htmlFor={props.id}>{props.label}</label>
      <input
        id={props.id}
        className="text-input"
        readOnly={!may}
        value={typed ?? props.value}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => event.key === 'Enter' && commit()}
      />
    </div>
  );
}
