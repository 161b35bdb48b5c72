/** What-if in time: a kerb, a rough road, a steering step, braking, a launch; against the slip or a revision. */
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Table from 'react-bootstrap/Table';
import { useBench, valueAt } from '../bench/bench';
import { Problem, type Schemas } from '../lib/client';
import { showPrecise, showValue, type Shown } from '../lib/format';
import { trialQuery, type TrialAsked } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { Choose, Field, Pick } from '../ui/fields';
import { Notice } from '../ui/marks';
import { Plot } from '../ui/Plot';
import type { Line } from '../ui/plotValues';
import { WideTable } from '../ui/WideTable';
import type { PanelProps } from './props';

type InTime = Schemas['InTimeView'];
type Result = Schemas['InTimeResult'];
type Told = Schemas['TrialView'];
type Body = 'heave' | 'pitch' | 'roll';

const WHEELS = [
  ['0', 'LF'],
  ['1', 'RF'],
  ['2', 'LR'],
  ['3', 'RR'],
] as const;
const BODY = [
  ['heave', 'Heave'],
  ['pitch', 'Pitch'],
  ['roll', 'Roll'],
] as const;
const SECONDS: Shown = { symbol: 's', factor: 1, offset: 0, precision: 0.01 };

export function InTimePanel({ panel }: PanelProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const trials = dictionary.data.trials;
  const [asked, setAsked] = useState<TrialAsked | null>(null);
  const [typed, setTyped] = useState({ ...NOTHING, name: panel.topic || (trials[0]?.id ?? '') });
  const found = useQuery({
    ...trialQuery(bench.id, asked ?? { name: typed.name }),
    enabled: asked !== null,
    retry: false,
  });
  const problem = found.error instanceof Problem ? found.error : null;
  const entry = trials.find((one) => one.id === typed.name);
  if (!entry) return null;
  return (
    <section className="in-time" aria-label="What if, in time">
      <h2>What if, in time</h2>
      <form
        className="in-time-asks"
        onSubmit={(event) => {
          event.preventDefault();
          const { against, ...rest } = typed;
          setAsked({ ...rest, ...(against ? { against: Number(against) } : {}) });
        }}
      >
        <TrialFields
          typed={typed}
          set={(part) => setTyped({ ...typed, ...part })}
          problem={problem}
        />
        {found.isFetching ? (
          <Button variant="outline-dark" onClick={() => setAsked(null)}>
            Calculating … Cancel
          </Button>
        ) : (
          <Button type="submit" variant="outline-dark">
            Run
          </Button>
        )}
      </form>
      <p className="hint">{entry.help}</p>
      {found.error && !problem?.errors.length && (
        <Notice tone="draft">{found.error.message}</Notice>
      )}
      {asked && found.data && <Ran told={found.data} />}
    </section>
  );
}

const NOTHING = { size: '', speed: '', against: '' };
type Typed = typeof NOTHING & { name: string };

interface FieldsProps {
  typed: Typed;
  set: (part: Partial<Typed>) => void;
  problem: Problem | null;
}

/** Which trial, how large, how fast, and against what. */
function TrialFields({ typed, set, problem }: FieldsProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const { trials } = dictionary.data;
  const entry = trials.find((one) => one.id === typed.name);
  if (!entry) return null;
  const shown = dictionary.shown(entry.size.quantity, bench.profile);
  const fast = dictionary.shown('speed', bench.profile);
  const looked = valueAt(bench, 'speed');
  const earlier = Array.from({ length: bench.revision - 1 }, (_, i): [string, string] => {
    const number = String(bench.revision - 1 - i);
    return [number, `revision ${number}`];
  });
  return (
    <>
      <Pick
        legend="Trial"
        options={trials.map((one) => [one.id, one.label] as const)}
        value={typed.name}
        set={(name) => set({ name, size: '' })}
      />
      <Field
        id="trial-size"
        field="size"
        label={entry.size.label}
        unit={shown.symbol}
        value={typed.size}
        set={(size) => set({ size })}
        hint={showPrecise(entry.usual, shown)}
        problem={problem}
      />
      <Field
        id="trial-speed"
        field="speed"
        label="Speed"
        unit={fast.symbol}
        value={typed.speed}
        set={(speed) => set({ speed })}
        hint={looked === undefined ? '' : showValue(looked, fast)}
        problem={problem}
      />
      <Choose
        id="trial-against"
        label="Against"
        value={typed.against}
        set={(against) => set({ against })}
        options={[['', 'the slip'], ...earlier]}
      />
    </>
  );
}

function Ran({ told }: { told: Told }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const [wheel, setWheel] = useState<'0' | '1' | '2' | '3'>('0');
  const [body, setBody] = useState<Body>('roll');
  const { booked, other, missing } = told;
  if (!booked) return <Notice>{missing}</Notice>;
  const lines = (of: (run: InTime) => number[]): Line[] =>
    [booked, other].flatMap((run, i) =>
      run
        ? [
            {
              label: i === 0 ? 'on the car' : told.other_words,
              drafted: i === 1,
              order: 0,
              points: run.times.map((at, j) => [at, of(run)[j] ?? 0] as [number, number]),
            },
          ]
        : [],
    );
  const bodyShown = dictionary.shown(
    body === 'heave' ? 'fine_dimension' : 'fine_angle',
    bench.profile,
  );
  return (
    <>
      {missing && <Notice>{missing}</Notice>}
      <div className="in-time-plots">
        <div>
          <Pick legend="Load on the wheel" options={WHEELS} value={wheel} set={setWheel} />
          <Plot
            label={`Load on the ${WHEELS[Number(wheel)]?.[1] ?? ''} wheel over time`}
            x={{ name: 'Time', shown: SECONDS }}
            y={{ name: 'Load', shown: dictionary.shown('force', bench.profile) }}
            lines={lines((run) => run.loads[Number(wheel)] ?? [])}
          />
        </div>
        <div>
          <Pick legend="Body" options={BODY} value={body} set={setBody} />
          <Plot
            label={`${body} over time`}
            x={{ name: 'Time', shown: SECONDS }}
            y={{ name: '', shown: bodyShown }}
            lines={lines((run) => run[body])}
          />
        </div>
      </div>
      <Results
        head={WHEELS.map(([, place]) => place)}
        now={booked.wheels}
        then={other?.wheels ?? []}
      />
      <Results head={['greatest', 'settled after, s']} now={booked.body} then={other?.body ?? []} />
      {[...new Set([...booked.assumed, ...(other?.assumed ?? [])])].map((sentence) => (
        <p key={sentence} className="hint">
          {sentence}
        </p>
      ))}
    </>
  );
}

/** The numbers that matter, on the car and against it. */
function Results({ head, now, then }: { head: string[]; now: Result[]; then: Result[] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  return (
    <WideTable label="Results">
      <Table size="sm" className="in-time-results">
        <thead>
          <tr>
            <td />
            {head.map((words) => (
              <th key={words} scope="col">
                {words}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {now.map((row, i) => {
            const shown = dictionary.shown(row.quantity, bench.profile);
            return (
              <tr key={row.label}>
                <th scope="row">
                  {row.label} <small>{shown.symbol}</small>
                </th>
                {head.map((words, j) => {
                  const as = words.endsWith(', s') ? SECONDS : shown;
                  return (
                    <td key={words}>
                      <b>{known(row.values[j], as)}</b>
                      {then[i] && known(then[i].values[j], as) !== known(row.values[j], as) && (
                        <b className="drafted"> → {known(then[i].values[j], as)}</b>
                      )}
                    </td>
                  );
                })}
              </tr>
            );
          })}
        </tbody>
      </Table>
    </WideTable>
  );
}

const known = (value: number | null | undefined, shown: Shown) =>
  typeof value === 'number' ? showValue(value, shown) : '–';
