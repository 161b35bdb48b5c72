/** What to change for what the driver said: sized on this car, ranked, with its price and its past. */
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useBench } from '../bench/bench';
import type { NumberName, Schemas } from '../lib/client';
import { adviceQuery, runQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { Pick } from '../ui/fields';
import { Notice } from '../ui/marks';
import { Empty, Failed, Waiting } from '../ui/states';
import { WriteDown } from './WriteDown';
import { Candidate } from './Candidate';

type Asked = Record<'symptom' | 'phase' | 'school' | 'severity' | 'corner' | 'surface', string>;

const SEVERITY = [
  ['slight', 'a little'],
  ['clear', 'clearly'],
  ['strong', 'badly'],
] as const;
const CORNERS = [
  ['', 'all'],
  ['slow', 'slow only'],
  ['fast', 'fast only'],
] as const;
const SURFACES = [
  ['', 'any'],
  ['poor', 'poor'],
  ['good', 'good'],
] as const;
const oneOf = <T extends string>(value: string, of: readonly (readonly [T, string])[], usual: T) =>
  of.find(([id]) => id === value)?.[0] ?? usual;

export function Advise() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  // what is asked stands in the address: it can be gone back to, and sent to somebody
  const [query, setQuery] = useSearchParams();
  const asked: Asked = {
    symptom: query.get('symptom') ?? '',
    phase: query.get('phase') ?? '',
    school: query.get('school') === 'B' ? 'B' : 'A',
    severity: oneOf(query.get('severity') ?? '', SEVERITY, 'clear'),
    corner: oneOf(query.get('corner') ?? '', CORNERS, ''),
    surface: oneOf(query.get('surface') ?? '', SURFACES, ''),
  };
  const symptoms = dictionary.data.symptoms.filter((one) =>
    one.disciplines.includes(bench.discipline),
  );
  const discipline = dictionary.discipline(bench.discipline);
  const symptom = symptoms.find((one) => one.id === asked.symptom);
  const schools = dictionary.data.views.filter((one) => one.topic === 'balance');
  const put = (name: keyof Asked, value: string) => {
    const next = new URLSearchParams(query);
    next.set(name, value);
    const found = symptoms.find((one) => one.id === next.get('symptom'));
    // a complaint that is heard in one phase only needs no second press
    if (name === 'symptom' && found && !next.get('phase') && found.phases.length === 1)
      next.set('phase', found.phases[0] ?? '');
    setQuery(next);
  };
  return (
    <article className="advise">
      <div className="sheet-head">
        <h1>What to change</h1>
        <p>From the driver’s words to changes tried on this car, best effect per minute first.</p>
      </div>
      <Heard run={Number(query.get('run'))} />
      <Pick
        legend="The driver says"
        options={symptoms.map((one) => [one.id, one.label] as const)}
        value={asked.symptom}
        set={(id) => put('symptom', id)}
      />
      <Pick
        legend="Where"
        options={discipline.phases.map((phase) => [phase.id, phase.label] as const)}
        value={asked.phase}
        set={(phase) => put('phase', phase)}
      />
      <Conditions asked={asked} put={put} corners={discipline.corners} />
      {(symptom?.schools.length ?? 0) > 1 && (
        <>
          <Pick
            legend="First look at"
            options={schools.map((one) => [one.id, one.label] as const)}
            value={asked.school}
            set={(school) => put('school', school)}
          />
          <p className="hint">{schools.find((one) => one.id === asked.school)?.reason}</p>
        </>
      )}
      {symptom && asked.phase ? (
        <Answers asked={asked} symptom={symptom} />
      ) : (
        <Empty title="Nothing asked yet.">
          Say what the car does{symptom ? ', and where it does it.' : '.'}
        </Empty>
      )}
    </article>
  );
}

interface ConditionsProps {
  asked: Asked;
  put: (name: keyof Asked, value: string) => void;
  /** Whether such a car is driven round corners. */
  corners: boolean;
}

/** How bad it is, and on what. */
function Conditions({ asked, put, corners }: ConditionsProps) {
  return (
    <>
      <Pick
        legend="How bad"
        options={SEVERITY}
        value={oneOf(asked.severity, SEVERITY, 'clear')}
        set={(severity) => put('severity', severity)}
      />
      {corners && (
        <Pick
          legend="Corners"
          options={CORNERS}
          value={oneOf(asked.corner, CORNERS, '')}
          set={(corner) => put('corner', corner)}
        />
      )}
      <Pick
        legend="Surface"
        options={SURFACES}
        value={oneOf(asked.surface, SURFACES, '')}
        set={(surface) => put('surface', surface)}
      />
    </>
  );
}

/** What the driver said of the run that led here, word for word. */
function Heard({ run }: { run: number }) {
  const { bench } = useBench();
  const found = useQuery({ ...runQuery(bench.id, run), enabled: run > 0 }).data;
  if (!found) return null;
  return (
    <dl className="spoken">
      {found.words.map((one) => (
        <div key={one.phase}>
          <dt>{one.phase}</dt>
          <dd>“{one.text}”</dd>
        </div>
      ))}
    </dl>
  );
}

/** A change that cannot be made yet, one press from where it is set or measured. */
function Where({ name, children }: { name: NumberName; children: ReactNode }) {
  const { bench } = useBench();
  const to = useDictionary().whereEntered(bench.id, bench.discipline, name);
  return to ? <Link to={to}>{children}</Link> : children;
}

function Answers({ asked, symptom }: { asked: Asked; symptom: Schemas['SymptomEntry'] }) {
  const { bench } = useBench();
  const found = useQuery(
    adviceQuery(bench.id, {
      ...asked,
      school: asked.school === 'B' ? 'B' : 'A',
      severity: oneOf(asked.severity, SEVERITY, 'clear'),
      corner: oneOf(asked.corner, CORNERS, ''),
      surface: oneOf(asked.surface, SURFACES, ''),
    }),
  );
  if (found.isError) return <Failed error={found.error} again={() => void found.refetch()} />;
  if (!found.data) return <Waiting what="Trying each change on the car" />;
  const { beside, candidates } = found.data;
  const can = candidates.filter((one) => !one.refused);
  const cannot = candidates.filter((one) => one.refused);
  const longest = Math.max(1, ...can.map((one) => one.total_minutes));
  const said = [symptom.label, asked.phase];
  if (asked.severity !== 'clear')
    said.push(SEVERITY.find(([id]) => id === asked.severity)?.[1] ?? '');
  if (asked.corner) said.push(`in ${asked.corner} corners`);
  if (asked.surface) said.push(`on a ${asked.surface} surface`);
  const why = `${said.join(', ')}.`;
  return (
    <>
      {beside && <Notice tone="plain">{beside}</Notice>}
      {can.length > 0 && (
        <ol className="candidates" aria-label="Changes, best first">
          {can.map((one) => (
            <Candidate key={one.label} one={one} why={why} longest={longest} />
          ))}
        </ol>
      )}
      {can.length === 0 && candidates.length > 0 && (
        <Notice tone="plain">
          {cannot.some((one) => one.asks.length > 0)
            ? 'None of the usual cures can be sized on this car yet. '
            : 'None of the usual cures can be made on this car as it stands. '}
          What bars each is below;{' '}
          <Link to={`/cars/${bench.id}/plan`}>measure what is missing</Link> first.
        </Notice>
      )}
      <WriteDown of={cannot} again={() => void found.refetch()} />
      {cannot.length > 0 && (
        <section className="not-offered" aria-label="Not offered here">
          <h2>Not offered here</h2>
          <dl>
            {cannot.map((one) => (
              <div key={one.label}>
                <dt>
                  <Where name={one.number}>{one.label}</Where>
                </dt>
                <dd>{one.refused}</dd>
              </div>
            ))}
          </dl>
        </section>
      )}
    </>
  );
}
