/** Ballast before there is a piece of it: dragged on the plan or typed, and the mass that reaches a target. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useBench, valueAt } from '../bench/bench';
import { useSlip } from '../bench/slip';
import { changesOf } from '../bench/slipState';
import { BallastPlan } from '../drawings/BallastPlan';
import { api, Problem, type Schemas } from '../lib/client';
import { showChange, showPrecise, showValue, type Shown } from '../lib/format';
import { useMay } from '../lib/me';
import { ballastQuery } from '../lib/queries';
import { useDictionary, whereWords } from '../lib/vocabulary';
import { Field, Pick } from '../ui/fields';
import { CheckField, OtherProblems, TextField, useApiForm } from '../ui/form';
import { Notice } from '../ui/marks';

const TARGETS = [
  ['', 'as typed'],
  ['front_share', 'a front share'],
  ['left_share', 'a left share'],
  ['cross_share', 'a cross'],
  ['total_mass', 'a total mass'],
] as const;
type Target = (typeof TARGETS)[number][0];

interface Typed {
  mass: string;
  behind_front: string;
  to_left: string;
  target: string;
}

export function BallastPanel() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const mass = dictionary.shown('mass', bench.profile);
  const length = dictionary.shown('dimension', bench.profile);
  const wheelbase = valueAt(bench, 'wheelbase') ?? 2.5;
  const [solve, setSolve] = useState<Target>('');
  const [typed, setTyped] = useState<Typed>({
    mass: showPrecise(10, mass),
    behind_front: showPrecise(wheelbase / 2, length),
    to_left: '0',
    target: '',
  });
  // where it was dragged or stepped to: it stands there at once, before the server has answered for it
  const [held, setHeld] = useState<{ behind_front: number; to_left: number } | null>(null);
  const ready = solve ? typed.target.trim() !== '' : typed.mass.trim() !== '';
  const asked = { ...typed, solve };
  const found = useQuery({
    ...ballastQuery(bench.id, asked),
    enabled: ready && bench.figures.pad_mass?.values !== undefined,
    placeholderData: keepPreviousData,
    retry: false,
  });
  if (bench.figures.pad_mass?.values === undefined || !bench.setup.ballast) return null;
  const problem = found.error instanceof Problem ? found.error : null;
  const told = ready && !problem ? found.data : undefined;
  const shownTarget = dictionary.shown(solve === 'total_mass' ? 'mass' : 'share', bench.profile);
  const field = (key: keyof Typed, label: string, unit: string) => (
    <Field
      id={`ballast-${key}`}
      field={key}
      label={label}
      unit={unit}
      value={typed[key]}
      set={(value) => {
        setHeld(null);
        setTyped({ ...typed, [key]: value });
      }}
      problem={problem}
    />
  );
  return (
    <section className="ballast" aria-label="Ballast on the plan">
      <h2>Ballast on the plan</h2>
      <p className="hint">
        Drag the weight to where a piece could be bolted down, or type its place. Bolt it so that it
        holds in a crash; the rule book says how.
      </p>
      <div className="ballast-sheet">
        <BallastPlan
          place={told ? { ...told, ...held } : null}
          moved={(behind, left) => {
            setHeld({ behind_front: behind, to_left: left });
            setTyped({
              ...typed,
              behind_front: showPrecise(behind, length),
              to_left: showPrecise(left, length),
            });
          }}
        />
        <div>
          <Pick legend="Mass" value={solve} options={TARGETS} set={setSolve} />
          {solve
            ? field('target', 'Wanted', shownTarget.symbol)
            : field('mass', 'Mass of the piece', mass.symbol)}
          {field('behind_front', 'Behind the front axle', length.symbol)}
          {field('to_left', 'Left of the centre line', length.symbol)}
          {problem && !problem.errors.some((one) => (one.number ?? '') in typed) && (
            <Notice tone="draft">{problem.detail}</Notice>
          )}
          {told && <Outcome told={told} />}
          {told && told.mass > 0 && <AddPiece told={told} late={found.isPlaceholderData} />}
        </div>
      </div>
    </section>
  );
}

function Outcome({ told }: { told: Schemas['BallastView'] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const mass = dictionary.shown('mass', bench.profile);
  return (
    <div className="ballast-outcome" role="status">
      <p>
        <b className="drafted">{showValue(told.mass, { ...mass, precision: 0.1 })}</b>{' '}
        <small>{mass.symbol}</small> there
      </p>
      <dl>
        {told.moved.map((row) => {
          const entry = dictionary.entry(row.name);
          const shown = dictionary.shown(entry.quantity, bench.profile);
          return (
            <div key={row.name + row.place}>
              <dt>{row.place === 'car' ? entry.label : whereWords(entry.label, [row.place])}</dt>
              <dd>
                {showValue(row.before ?? 0, shown)} →{' '}
                <b className="drafted">{showValue(row.after ?? 0, shown)}</b>{' '}
                <small>{shown.symbol}</small>
              </dd>
            </div>
          );
        })}
      </dl>
    </div>
  );
}

const TURNS: Shown = { symbol: 'turns', factor: 1, offset: 0, precision: 0.01 };
const turned = (line: Schemas['LineView']) => Number(line.new) - Number(line.old ?? 0);

/**
 * The piece as found becomes a part of the inventory, and goes on the slip at the first free place.
 * `late` where what is shown answers what was asked before: that is not to be taken.
 */
function AddPiece({ told, late }: { told: Schemas['BallastView']; late: boolean }) {
  const { bench, refresh } = useBench();
  const { wish, change } = useSlip();
  const dictionary = useDictionary();
  const may = useMay('give');
  const add = api.useMutation('post', '/api/cars/{car_id}/parts');
  const form = useApiForm({
    id: 'ballast',
    defaults: { code: '', level: false },
    save: add,
    send: ({ code, level }) =>
      add.mutate(
        {
          params: { path: { car_id: bench.id } },
          body: {
            kind: 'ballast',
            code,
            values: {
              mass: `${Math.round(told.mass * 100) / 100} kg`,
              behind_front: `${Math.round(told.behind_front * 1000)} mm`,
              to_left: `${Math.round(told.to_left * 1000)} mm`,
            },
          },
        },
        {
          onSuccess: async () => {
            await refresh();
            form.values.setValue('code', '');
            if (free)
              change([
                { name: 'ballast', place: free, new: code },
                ...(level ? changesOf(told.restore) : []),
              ]);
          },
        },
      ),
  });
  const places = dictionary.places('ballast');
  const taken = new Set(
    wish.changes.filter((one) => one.name === 'ballast' && one.new).map((one) => one.place),
  );
  const free = places.find(
    (place, i) => (bench.setup.ballast?.[i] ?? null) === null && !taken.has(place),
  );
  if (!may) return null;
  const turns = told.restore
    .map((line) => `${line.place} ${showChange(turned(line), TURNS)}`)
    .join(', ');
  return (
    <form
      className="ballast-add"
      onSubmit={(event) => {
        event.preventDefault();
        form.send(false);
      }}
    >
      <TextField of={form} name="code" label="Code of the piece" />
      <OtherProblems of={form} />
      {free && told.restore.length > 0 && (
        <CheckField
          of={form}
          name="level"
          label={`Turn the perches to bring the heights back: ${turns} turns`}
        />
      )}
      <Button
        type="submit"
        variant="outline-dark"
        disabled={!form.values.watch('code').trim() || add.isPending || late}
      >
        {free ? 'Add to inventory and to the slip' : 'Add to inventory'}
      </Button>
    </form>
  );
}
