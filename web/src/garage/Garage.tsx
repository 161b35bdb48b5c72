/** The team's cars: each drawn to one scale, with its revision and what is stale. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import ProgressBar from 'react-bootstrap/ProgressBar';
import { Link, useNavigate } from 'react-router';
import { api, type Schemas } from '../lib/client';
import { garageQuery, stepKey, stepQuery } from '../lib/queries';
import { CarOutline } from '../drawings/CarOutline';
import { OneLine } from '../ui/form';
import { Notice, StatusMark, type Status } from '../ui/marks';
import { showValue } from '../lib/format';
import { useDictionary } from '../lib/vocabulary';
import { Header } from '../ui/Header';
import { useMay } from '../lib/me';
import { NewCar } from './NewCar';
import { Empty, Failed, Moment, Waiting } from '../ui/states';

export function Garage() {
  const garage = useQuery(garageQuery);
  const mayImport = useMay('import');
  const mayGive = useMay('give');
  const [adding, setAdding] = useState(false);
  return (
    <>
      <Header />
      <main className="garage">
        <div className="sheet-head">
          <h1>Garage</h1>
          <div className="garage-acts">
            {mayGive && (
              <button type="button" className="quiet" onClick={() => setAdding(!adding)}>
                New car
              </button>
            )}
            {mayImport && <ImportCar />}
            <a className="quiet" href="/api/sheets/setup" target="_blank" rel="noreferrer">
              Set-up sheets of all cars
            </a>
          </div>
        </div>
        {adding && <NewCar done={() => setAdding(false)} />}
        {garage.isPending && <Waiting what="Opening the garage" />}
        {garage.isError && <Failed error={garage.error} again={() => void garage.refetch()} />}
        {garage.data?.cars.length === 0 && (
          <Empty title="No cars yet.">
            Add a new one and give its numbers, or import a car file with its whole record.
          </Empty>
        )}
        {garage.data?.broken.map((car) => (
          <Notice key={car.id}>
            {car.name} cannot be opened: its record does not hold together. The other cars are not
            touched. Restore it from a backup, or bring it in again from a car file.
          </Notice>
        ))}
        <ul className="cars">
          {garage.data?.cars.map((car) => (
            <GarageCar key={car.id} car={car} />
          ))}
        </ul>
      </main>
    </>
  );
}

function GarageCar({ car }: { car: Schemas['GarageCar'] }) {
  const mayGive = useMay('give');
  const dictionary = useDictionary();
  const mass = dictionary.shown('mass', car.profile);
  const share = dictionary.shown('share', car.profile);
  const use = dictionary.data.uses.find((one) => one.id === car.use);
  const standings = (['void', 'doubtful', 'missing', 'fresh'] as Status[]).filter(
    (status) => car.stale[status],
  );
  return (
    <li className="garage-car">
      <Link to={`/cars/${car.id}/plan`} className="garage-link">
        <CarOutline wheelbase={car.wheelbase} track={car.track} />
        <h2>{car.name}</h2>
      </Link>
      <p className="car-kind">
        {car.race_number && `no. ${car.race_number} · `}
        {use?.label ?? car.discipline}
      </p>
      <dl className="pairs">
        <div>
          <dt>On revision</dt>
          <dd>
            <b>{car.revision}</b>
          </dd>
        </div>
        <div>
          <dt>Booked</dt>
          <dd>
            <Moment at={car.booked_at} by={car.booked_by.split(' ')[0]} />
          </dd>
        </div>
        <div>
          <dt>Prepared for</dt>
          <dd>{car.session ? `${car.session}, ${car.event}` : 'nothing yet'}</dd>
        </div>
        <div>
          <dt>On the pads</dt>
          <dd>
            {car.total_mass !== null && car.front_share !== null
              ? `${showValue(car.total_mass, mass)} ${mass.symbol}, ${showValue(car.front_share, share)} % front`
              : 'not read yet'}
          </dd>
        </div>
      </dl>
      <p className="standings">
        {standings.map((status) => (
          <span key={status}>
            <StatusMark status={status} /> {car.stale[status]} {status}
          </span>
        ))}
      </p>
      <p className="garage-actions">
        <Link to={`/cars/${car.id}/logbook`}>Logbook</Link>
        <a href={`/api/cars/${car.id}/file`} download>
          Export car file
        </a>
        {mayGive && <CopyCar car={car.id} name={car.name} />}
      </p>
    </li>
  );
}

/** A copy of a car: its data, inventory and setup; its record starts anew. */
function CopyCar({ car, name }: { car: number; name: string }) {
  const queries = useQueryClient();
  const [naming, setNaming] = useState(false);
  const make = api.useMutation('post', '/api/cars/{car_id}/copy', {
    onSuccess: async () => {
      setNaming(false);
      await queries.invalidateQueries({ queryKey: garageQuery.queryKey });
    },
  });
  if (!naming)
    return (
      <button type="button" className="quiet" onClick={() => setNaming(true)}>
        Copy<span className="visually-hidden"> {name}</span>
      </button>
    );
  return (
    <OneLine
      label="Name of the copy"
      start={`${name}, copy`}
      act="Copy"
      className="copy-car"
      save={make}
      send={(copy) => make.mutate({ params: { path: { car_id: car } }, body: { name: copy } })}
      done={() => setNaming(false)}
    />
  );
}

/** A file is sent as it was written: the server looks at it. */
const asItIs = (file: unknown) => file;

function ImportCar() {
  const input = useRef<HTMLInputElement>(null);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { data: step } = useQuery(stepQuery);
  const bringIn = api.useMutation('post', '/api/cars/import', {
    onMutate: () => queries.removeQueries({ queryKey: stepKey }),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: garageQuery.queryKey });
      await navigate(`/cars/${made.id}/plan`);
    },
  });
  return (
    <div className="import">
      <input
        ref={input}
        id="car-file"
        type="file"
        accept="application/json,.json"
        className="visually-hidden"
        tabIndex={-1}
        aria-label="Car file"
        onChange={(event) => {
          const file = event.target.files?.[0];
          const body = file as unknown as Schemas['CarFileIn'] | undefined;
          if (body) bringIn.mutate({ body, bodySerializer: asItIs });
          event.target.value = '';
        }}
      />
      <button
        type="button"
        className="quiet"
        disabled={bringIn.isPending}
        onClick={() => input.current?.click()}
      >
        {bringIn.isPending ? 'Importing …' : 'Import car file'}
      </button>
      {bringIn.isPending && (
        <div className="progress-of-work" role="status">
          <ProgressBar animated now={step ? step.done + 1 : 1} max={step?.of ?? 1} />
          {step ? `${step.words} …` : 'Sending the file …'}
        </div>
      )}
      {bringIn.error && <Notice tone="draft">{bringIn.error.message}</Notice>}
    </div>
  );
}
