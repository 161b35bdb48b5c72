/** The car under load: what each wheel carries, where it ends, which axle gives up first, and by what. */
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useBench, valueAt } from '../bench/bench';
import { Needs } from '../bench/Needs';
import { useSlip } from '../bench/slip';
import { changesOf } from '../bench/slipState';
import { useWay, type Value } from '../bench/ways';
import { LoadedPlan } from '../drawings/LoadedPlan';
import type { NumberName, Schemas } from '../lib/client';
import { finer, showChange, showValue, type Shown } from '../lib/format';
import { useMay } from '../lib/me';
import { underLoadQuery, type LoadAsked } from '../lib/queries';
import { useDictionary, whereWords } from '../lib/vocabulary';
import { Notice } from '../ui/marks';
import { Stacks } from '../ui/Stacks';
import { AroundLoad } from './AroundLoad';
import type { PanelProps } from './props';
import { Waiting } from '../ui/states';

type Case = Schemas['LoadCaseView'];
const G: Shown = { symbol: 'g', factor: 1, offset: 0, precision: 0.01 };
const FINE: Shown = { symbol: 'g', factor: 1, offset: 0, precision: 0.001 };

export function LoadPanel({ panel }: PanelProps) {
  const { bench } = useBench();
  // a station may look straight ahead, at an acceleration of the car data
  const along = panel.x ? valueAt(bench, panel.x as NumberName) : undefined;
  const [asked, setAsked] = useState<LoadAsked>(
    along === undefined ? {} : { along, sideways: 0, speed: 0 },
  );
  const found = useQuery({
    ...underLoadQuery(bench.id, asked),
    placeholderData: (before) => before,
  });
  const told = found.data;
  if (found.isError) return <Notice>{found.error.message}</Notice>;
  if (!told) return <Waiting what="Working out wheel loads" />;
  return (
    <section className={`under-load${found.isPlaceholderData || found.isStale ? ' is-stale' : ''}`}>
      <h2>Under load</h2>
      <LoadCase told={told} ask={setAsked} />
      {told.needs.length > 0 && (
        <Notice>
          The car under load needs <Needs needs={told.needs} />.
        </Notice>
      )}
      {told.booked && <Looked told={told} booked={told.booked} />}
      {told.booked && told.booked.balance !== null && (
        <AroundLoad asked={asked} speed={told.speed} along={told.along} />
      )}
    </section>
  );
}

/** The load that is looked at, in the car's units: left of zero is a right turn, or braking. */
function LoadCase({
  told,
  ask,
}: {
  told: Schemas['UnderLoadView'];
  ask: (asked: LoadAsked) => void;
}) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const speed = dictionary.shown('speed', bench.profile);
  const acceleration = dictionary.shown('acceleration', bench.profile);
  const now = { sideways: told.sideways, along: told.along, speed: told.speed };
  return (
    <div className="load-case">
      <LoadField
        id="load-sideways"
        label="Cornering, + left turn"
        shown={acceleration}
        value={told.sideways}
        set={(sideways) => ask({ ...now, sideways })}
      />
      <LoadField
        id="load-along"
        label="Along, + drive, − brake"
        shown={acceleration}
        value={told.along}
        set={(along) => ask({ ...now, along })}
      />
      <LoadField
        id="load-speed"
        label="Speed"
        shown={speed}
        value={told.speed}
        set={(one) => ask({ ...now, speed: one })}
      />
    </div>
  );
}

interface FieldProps {
  id: string;
  label: string;
  shown: Shown;
  value: number;
  set: (si: number) => void;
}

function LoadField({ id, label, shown, value, set }: FieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState('');
  const commit = () => {
    if (typed === null) return;
    const read = Number(typed.replace(',', '.').replace('−', '-'));
    if (typed.trim() === '' || !Number.isFinite(read)) {
      setWrong(`“${typed}” is not a number: type one in ${shown.symbol}.`);
      return;
    }
    setWrong('');
    setTyped(null);
    set((read - shown.offset) / shown.factor);
  };
  return (
    <div className={`cell${wrong ? ' has-problem' : ''}`}>
      <label htmlFor={id}>{label}</label>
      <span className="given-box">
        <input
          id={id}
          inputMode="text"
          autoComplete="off"
          aria-invalid={wrong !== ''}
          value={typed ?? showValue(value, shown)}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={commit}
          onKeyDown={(event) => {
            if (event.key === 'Enter') commit();
            if (event.key === 'Escape') {
              setTyped(null);
              setWrong('');
            }
          }}
        />
        <small>{shown.symbol}</small>
      </span>
      {wrong && (
        <span className="field-said" role="alert">
          {wrong}
        </span>
      )}
    </div>
  );
}

function Looked({ told, booked }: { told: Schemas['UnderLoadView']; booked: Case }) {
  const { drafted } = told;
  const after = drafted && drafted.loads.length > 0 ? drafted : null;
  return (
    <>
      {booked.refused && <Notice>{booked.refused}</Notice>}
      {drafted?.refused && !booked.refused && (
        <Notice tone="draft">After the slip: {drafted.refused}</Notice>
      )}
      <div className="load-looked">
        {booked.loads.length > 0 && (
          <LoadedPlan
            booked={booked}
            drafted={after}
            label={`Wheel loads at this load: ${booked.loads.map((one) => Math.round(one)).join(', ')} N`}
          />
        )}
        <div>
          {told.sideways !== 0 && <Across booked={booked} drafted={after} />}
          <Limits
            straight={told.sideways === 0}
            along={told.along}
            booked={booked}
            drafted={drafted}
            estimated={told.estimated}
          />
        </div>
      </div>
      {told.steps.length > 0 && <Steps steps={told.steps} />}
    </>
  );
}

const MOVED = ['springs_across', 'links_across', 'unsprung_across'] as const;
const STIFF = ['spring_roll_stiffness', 'bar_roll_stiffness'] as const;
const AXLES = ['front', 'rear'] as const;

/** Load moved across each axle by what carries it, and what holds each axle against roll. */
function Across({ booked, drafted }: { booked: Case; drafted: Case | null }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const moved = (one: Case, axle: number) => MOVED.map((part) => one[part][axle] ?? 0);
  const stiff = (of: 'booked' | 'drafted', axle: number) =>
    STIFF.map((name) => {
      const after = of === 'drafted' ? bench.slip.after[name] : undefined;
      return (after ?? bench.figures[name]?.values)?.[axle] ?? 0;
    });
  if (booked.loads.length === 0) return null;
  return (
    <>
      <Stacks
        title="Load transfer, as carried"
        shown={dictionary.shown('force', bench.profile)}
        parts={['springs, bar', 'links', 'unsprung']}
        rows={AXLES.map((label, i) => ({
          label,
          booked: moved(booked, i),
          drafted: drafted ? moved(drafted, i) : undefined,
        }))}
      />
      <Stacks
        title="Roll stiffness, standing"
        shown={dictionary.shown('roll_stiffness', bench.profile)}
        parts={['springs', 'bar']}
        rows={AXLES.map((label, i) => ({
          label,
          booked: stiff('booked', i),
          drafted: drafted ? stiff('drafted', i) : undefined,
        }))}
      />
    </>
  );
}

interface LimitsProps {
  /** Whether the car is looked at straight ahead. */
  straight: boolean;
  along: number;
  booked: Case;
  drafted: Case | null;
  estimated: string[];
}

function Limits({ straight, along, booked, drafted, estimated }: LimitsProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const share = dictionary.shown('share', bench.profile);
  const angle = dictionary.shown('angle', bench.profile);
  const force = dictionary.shown('force', bench.profile);
  const gradient = finer(dictionary.shown('roll_gradient', bench.profile));
  const wheel = booked.lift_wheel
    ? `${booked.lift_wheel} first lifts at`
    : 'A wheel first lifts at';
  const rows: [string, number | null, number | null | undefined, Shown][] = [
    ['Roll', booked.roll, drafted?.roll, angle],
    ['Front share of load transfer, as carried', booked.front_share, drafted?.front_share, share],
    [wheel, booked.lift, drafted?.lift, G],
    [
      booked.front_lift_wheel === 'both'
        ? 'Front wheels first lift at'
        : `${booked.front_lift_wheel} first lifts at`,
      booked.front_lift,
      drafted?.front_lift,
      G,
    ],
    [
      `${along < 0 ? 'Rear' : 'Front'} axle off the ground at`,
      booked.wheels_up,
      drafted?.wheels_up,
      G,
    ],
    [
      'Rear load, left less right',
      straight ? booked.rear_difference : null,
      drafted?.rear_difference,
      force,
    ],
    ['Shaft torque taken back by body roll', booked.handed_back, drafted?.handed_back, share],
    ['Rolls over at', booked.roll_over, drafted?.roll_over, G],
    ['Front axle slides at', booked.front_limit, drafted?.front_limit, G],
    ['Rear axle slides at', booked.rear_limit, drafted?.rear_limit, G],
    ['Understeer gradient', booked.gradient, drafted?.gradient, gradient],
    ['Grip balance, − front first', booked.balance, drafted?.balance, FINE],
  ];
  return (
    <>
      <ul className="lines load-limits">
        {rows.map(([label, now, then, shown]) =>
          now === null ? null : (
            <li key={label}>
              <span>{label}</span>
              <span className="from-to">
                <b>{showValue(Math.abs(now) < 1e-9 ? 0 : now, shown)}</b>
                {then !== null && then !== undefined && differs(now, then, shown) && (
                  <>
                    {' '}
                    <i>→</i> <b className="drafted">{showValue(then, shown)}</b>
                  </>
                )}{' '}
                <small>{shown.symbol}</small>
              </span>
            </li>
          ),
        )}
      </ul>
      {booked.unbalanced && <Notice>{booked.unbalanced}</Notice>}
      {booked.balance !== null && estimated.some((name) => name.startsWith('tyre_grip')) && (
        <p className="hint">
          <b>est.</b> Tyre grip is a typical value: trust how the balance moves, not where it
          stands.
        </p>
      )}
    </>
  );
}

/** Whether two values still differ as they are shown. */
function differs(now: number, then: number, shown: Shown): boolean {
  return showValue(now, shown) !== showValue(then, shown);
}

/** What one step of each setting does; one press puts it on the slip. */
function Steps({ steps }: { steps: Schemas['StepView'][] }) {
  return (
    <div className="one-step">
      <h3>What one step does</h3>
      <p className="hint">
        To the grip balance (−: the front gives up sooner) and to the front share of load transfer.
      </p>
      <ul className="lines">
        {steps.slice(0, 10).map((one) => (
          <Step key={one.lines.map((line) => line.name + line.place).join()} one={one} />
        ))}
      </ul>
    </div>
  );
}

function Step({ one }: { one: Schemas['StepView'] }) {
  const { bench } = useBench();
  const { change } = useSlip();
  const may = useMay('draft');
  const dictionary = useDictionary();
  const share = dictionary.shown('share', bench.profile);
  const first = one.lines[0];
  if (!first) return null;
  const words = whereWords(
    dictionary.entry(first.name).label,
    one.lines.map((line) => line.place),
  );
  return (
    <li>
      <StepWords words={words} line={first} />
      <span className="from-to">
        {one.balance !== null && (
          <>
            <b>{showChange(one.balance, FINE)}</b> <small>g</small>{' '}
          </>
        )}
        {one.front_share !== null && (
          <small>
            {showChange(one.front_share, share)} {share.symbol}
          </small>
        )}
      </span>
      {may && (
        <button type="button" className="quiet" onClick={() => change(changesOf(one.lines))}>
          Try<span className="visually-hidden"> {words}</span>
        </button>
      )}
    </li>
  );
}

function StepWords({ words, line }: { words: string; line: Schemas['LineView'] }) {
  const way = useWay(line.name, line.place);
  return (
    <span>
      {words}{' '}
      <small>
        {way.show(line.old as Value)} → {way.show(line.new as Value)}
      </small>
    </span>
  );
}
