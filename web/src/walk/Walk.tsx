/** An order of work, one step a page: what to do, what to mind, what to read, and its tick. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import Button from 'react-bootstrap/Button';
import { Link, useParams, useSearchParams } from 'react-router';
import { useBench } from '../bench/bench';
import { useUnderstood } from '../bench/understood';
import { api, type Schemas } from '../lib/client';
import { useMay } from '../lib/me';
import { walksQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { ReadingPanel } from '../panels/ReadingPanel';
import { Notice, StatusMark } from '../ui/marks';
import { Empty, Moment } from '../ui/states';
import { useDue } from './due';

type Procedure = Schemas['ProcedureEntry'];
type Step = Procedure['steps'][number];

export function Walk() {
  const { procedure: id } = useParams();
  const { bench } = useBench();
  const dictionary = useDictionary();
  if (id === 'due') return <DueWalk />;
  const procedure = dictionary.data.procedures.find(
    (one) => one.id === id && one.disciplines.includes(bench.discipline),
  );
  if (!procedure)
    return (
      <Empty title="This car has no such order of work.">
        <Link to={`/cars/${bench.id}/steps`}>All orders of work</Link>
      </Empty>
    );
  return <Ordered key={procedure.id} procedure={procedure} />;
}

/** Which step stands in the address: the back button goes a step back, a reload stays. */
function useStep(count: number, first: number): [number, (at: number) => void] {
  const [query, setQuery] = useSearchParams();
  const told = Number.parseInt(query.get('step') ?? '', 10);
  const at = Number.isFinite(told) ? told - 1 : first;
  return [
    Math.max(0, Math.min(count - 1, at)),
    (next) => setQuery({ step: String(Math.max(0, Math.min(count - 1, next)) + 1) }),
  ];
}

function Ordered({ procedure }: { procedure: Procedure }) {
  const { bench } = useBench();
  const may = useMay('read');
  const queries = useQueryClient();
  const found = useQuery(walksQuery(bench.id));
  const again = {
    onSuccess: () => queries.invalidateQueries({ queryKey: walksQuery(bench.id).queryKey }),
  };
  const tick = api.useMutation('put', '/api/cars/{car_id}/walks/ticks', again);
  const start = api.useMutation('post', '/api/cars/{car_id}/walks', again);
  const walk = found.data?.walks.find((one) => one.procedure === procedure.id);
  const ticked = (step: Step) => walk?.ticks.find((one) => one.step === step.label);
  const open = procedure.steps.findIndex((step) => !ticked(step));
  const [at, go] = useStep(procedure.steps.length, Math.max(0, open));
  const step = procedure.steps[at];
  if (!step || !found.data) return null;
  const done = ticked(step);
  const path = { params: { path: { car_id: bench.id } } };
  const put = (is: boolean) =>
    tick.mutateAsync({ ...path, body: { procedure: procedure.id, step: step.label, done: is } });
  return (
    <article className="walk">
      <Strip
        label={procedure.label}
        states={procedure.steps.map((one) => ({
          name: one.label,
          done: ticked(one) !== undefined,
        }))}
        at={at}
        go={go}
      />
      <Page
        key={step.label}
        title={step.label}
        said={step.do}
        cautions={step.cautions}
        station={step.station}
        readings={step.readings}
      />
      {done && (
        <p className="walk-done">
          <StatusMark status="fresh" /> Done, <Moment at={done.at} by={done.by} />
          {may && (
            <button type="button" className="quiet" onClick={() => void put(false)}>
              Take the tick back
            </button>
          )}
        </p>
      )}
      {tick.error && <Notice tone="draft">{tick.error.message}</Notice>}
      <Onward
        back={at > 0 ? () => go(at - 1) : undefined}
        station={step.station}
        next={
          done || !may
            ? at < procedure.steps.length - 1
              ? { said: 'Next', run: () => go(at + 1) }
              : undefined
            : {
                said: at < procedure.steps.length - 1 ? 'Done, next' : 'Done',
                run: () => void put(true).then(() => go(at + 1)),
              }
        }
      />
      {walk && may && (
        <Begun
          walk={walk}
          afresh={() =>
            void start.mutateAsync({ ...path, body: { procedure: procedure.id } }).then(() => go(0))
          }
        />
      )}
    </article>
  );
}

function Begun({ walk, afresh }: { walk: Schemas['WalkView']; afresh: () => void }) {
  return (
    <p className="hint">
      Begun <Moment at={walk.started_at} by={walk.started_by} />.{' '}
      <button type="button" className="quiet" onClick={afresh}>
        Begin afresh
      </button>
    </p>
  );
}

/** What has to be read before the car runs, and nothing else; a step is done when its reading is. */
function DueWalk() {
  const { bench } = useBench();
  const due = useDue();
  const [at, go] = useStep(due.length, 0);
  const one = due[at];
  if (!one)
    return (
      <Empty title="Nothing is due.">
        Every reading of this car counts. <Link to={`/cars/${bench.id}/release`}>Final check</Link>
      </Empty>
    );
  const minutes = due.reduce((sum, each) => sum + each.kind.minutes, 0);
  return (
    <article className="walk">
      <Strip
        label={`Due now: ${due.length} to read, about ${minutes} min`}
        states={due.map((each) => ({ name: each.kind.label, done: false }))}
        at={at}
        go={go}
      />
      <Page
        key={one.kind.id}
        title={one.kind.label}
        said={one.kind.how}
        cautions={[]}
        station={one.station.id}
        readings={[one.kind.id]}
      />
      <Onward
        back={at > 0 ? () => go(at - 1) : undefined}
        station={one.station.id}
        next={at < due.length - 1 ? { said: 'Skip', run: () => go(at + 1) } : undefined}
      />
    </article>
  );
}

interface StripProps {
  label: string;
  states: { name: string; done: boolean }[];
  at: number;
  go: (at: number) => void;
}

function Strip({ label, states, at, go }: StripProps) {
  const { bench } = useBench();
  return (
    <header className="walk-head">
      <p>
        <Link to={`/cars/${bench.id}/steps`}>Step by step</Link> <span>{label}</span>
        <b>
          {at + 1} <small>of {states.length}</small>
        </b>
      </p>
      <ol aria-label="Steps">
        {states.map((one, i) => (
          <li key={one.name}>
            <button
              type="button"
              className={one.done ? 'is-done' : undefined}
              aria-current={i === at ? 'step' : undefined}
              aria-label={`Step ${i + 1}: ${one.name}${one.done ? ', done' : ''}`}
              title={one.name}
              onClick={() => go(i)}
            />
          </li>
        ))}
      </ol>
    </header>
  );
}

interface PageProps {
  title: string;
  said: string;
  cautions: string[];
  station: string;
  readings: string[];
}

function Page({ title, said, cautions, station, readings }: PageProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const head = useRef<HTMLHeadingElement>(null);
  // a new step is read out and begins at its top
  useEffect(() => head.current?.focus(), []);
  const entry = dictionary.data.stations.find((one) => one.id === station);
  const { understood, understand } = useUnderstood(entry);
  const told = cautions.length > 0 ? cautions : entry?.caution ? [entry.caution] : [];
  const may = useMay('read');
  return (
    <section className="walk-page">
      <h1 ref={head} tabIndex={-1}>
        {title}
      </h1>
      <p className="walk-do">{said}</p>
      {told.map((one) => (
        <Notice key={one}>{one}</Notice>
      ))}
      {told.length > 0 && !understood && may && (
        <Button variant="dark" onClick={understand}>
          Understood
        </Button>
      )}
      {readings
        .filter((kind) => bench.standings.some((one) => one.kind === kind))
        .map((kind) => (
          <ReadingPanel key={kind} kind={kind} />
        ))}
    </section>
  );
}

interface OnwardProps {
  back: (() => void) | undefined;
  station: string;
  next: { said: string; run: () => void } | undefined;
}

function Onward({ back, station, next }: OnwardProps) {
  const { bench } = useBench();
  const label = useDictionary().data.stations.find((one) => one.id === station)?.label;
  return (
    <div className="walk-onward">
      <Button variant="outline-dark" disabled={!back} onClick={back}>
        Back
      </Button>
      <Link className="btn btn-outline-dark" to={`/cars/${bench.id}/${station}`}>
        Open {label}
      </Link>
      {next && (
        <Button variant="dark" onClick={next.run}>
          {next.said}
        </Button>
      )}
    </div>
  );
}
