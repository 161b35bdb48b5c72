/** From a target frequency to a spring of the inventory, for both axles side by side. */
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import Table from 'react-bootstrap/Table';
import { api, type Schemas } from '../lib/client';
import { springsQuery } from '../lib/queries';
import { bandOf, useBench, useSaved } from '../bench/bench';
import { Pick } from '../ui/fields';
import { useMay } from '../lib/me';
import { Empty, Failed, Waiting } from '../ui/states';
import { FrequencyChart } from '../drawings/FrequencyChart';
import { BigFigure, Figure } from '../bench/Figure';
import { GivenField, GivenFields } from '../bench/GivenField';
import { Notice, StatusMark } from '../ui/marks';
import { showChange, showValue } from '../lib/format';
import { useDictionary } from '../lib/vocabulary';
import { settingOf, useSlip } from '../bench/slip';

const PLACES = { front: ['LF', 'RF'], rear: ['LR', 'RR'] } as const;

export function SpringStock() {
  const { bench } = useBench();
  const found = useQuery(springsQuery(bench.id));
  return (
    <>
      {found.isPending && <Waiting what="Calculating springs" />}
      {found.isError && <Failed error={found.error} again={() => void found.refetch()} />}
      <div className="axles">
        {found.data?.axles.map((axle) => (
          <Axle key={axle.axle} axle={axle} />
        ))}
      </div>
    </>
  );
}

/** Which of the two frequencies is meant, said in a sentence. */
export function Conventions() {
  const { bench } = useBench();
  const may = useMay('give');
  const series = (bench.given.tyre_in_series?.values[0] ?? 0) > 0.5;
  const choose = api.useMutation('patch', '/api/cars/{car_id}/given', useSaved());
  const settle = api.useMutation('patch', '/api/cars/{car_id}/settings', useSaved());
  const path = { params: { path: { car_id: bench.id } } };
  const failed = choose.error ?? settle.error;
  return (
    <div className="conventions">
      <Pick
        legend="Ride frequency"
        disabled={!may}
        options={[
          [0, 'tyre left out'],
          [1, 'tyre in series'],
        ]}
        value={series ? 1 : 0}
        set={(value) => choose.mutate({ ...path, body: { values: { tyre_in_series: [value] } } })}
      />
      <p>
        {series
          ? 'The target counts the tyre as a second spring under the suspension: lower figures, nearer to what the car does.'
          : 'The target looks at the spring alone, as the usual bands do. The car on its tyres is a little lower.'}
      </p>
      <Pick
        legend="Motion ratio"
        disabled={!may}
        options={[
          ['spring_per_wheel', 'spring / wheel'],
          ['wheel_per_spring', 'wheel / spring'],
        ]}
        value={bench.ratio_is}
        set={(value) => settle.mutate({ ...path, body: { ratio_is: value } })}
      />
      {failed && <Notice tone="draft">{failed.message}</Notice>}
    </div>
  );
}

function Axle({ axle }: { axle: Schemas['SpringsAxle'] }) {
  const { bench } = useBench();
  const { wish, change } = useSlip();
  const may = useMay('draft');
  const dictionary = useDictionary();
  const side = axle.axle;
  const at = side === 'front' ? 0 : 1;
  const places = PLACES[side];
  const now = places.map((place) =>
    settingOf(bench, wish, dictionary.places('spring'), 'spring', place),
  );
  const fitted = now.map((one) => String(one.booked));
  const drafted = now.filter((one) => one.drafted).map((one) => String(one.value));
  const series = (bench.given.tyre_in_series?.values[0] ?? 0) > 0.5;
  const target = bench.given.target_frequency?.values[at] ?? undefined;
  const band = bandOf(bench, 'axle_frequency', side);
  const use = dictionary.data.uses.find((one) => one.id === bench.use);
  const choose = (code: string) => {
    if (may) change(places.map((place) => ({ name: 'spring' as const, place, new: code })));
  };
  return (
    <section className="axle-side" aria-label={`${side} springs`}>
      <h2>{side === 'front' ? 'Front' : 'Rear'}</h2>
      <div className="axle-given">
        <GivenFields name="unsprung_mass" axle={side} />
        <GivenFields name="motion_ratio" axle={side} />
        <GivenFields name="tyre_rate" axle={side} />
        <GivenFields name="droop_travel" axle={side} />
      </div>
      <div className="axle-target">
        <div className="target">
          <GivenField name="target_frequency" places={[side]} />
          {band && (
            <small title={`Target range: ${use?.label ?? ''}`}>
              {band.low.toFixed(1)} to {band.high.toFixed(1)} Hz{' '}
              {series ? 'tyre left out' : 'to begin with'}
            </small>
          )}
        </div>
        <RequiredRate axle={axle} />
        <div className="asked">
          <span className="big-label">Now</span>
          <Figure
            name={series ? 'axle_frequency_on_tyre' : 'axle_frequency'}
            place={side}
            size="big"
            asChange
          />
        </div>
      </div>
      {axle.candidates.length === 0 ? (
        <Empty title={`No springs in inventory for the ${side} yet.`}>
          <Link to={`/cars/${bench.id}/parts#spring`}>Add springs to inventory</Link> and each is
          compared here.
        </Empty>
      ) : (
        <>
          <FrequencyChart
            axle={axle}
            fitted={fitted}
            drafted={drafted}
            target={target}
            choose={choose}
          />
          <Candidates axle={axle} fitted={fitted} drafted={drafted} choose={may ? choose : null} />
        </>
      )}
    </section>
  );
}

/** The rate that the target asks for; what it lacks, or why there is none. */
function RequiredRate({ axle }: { axle: Schemas['SpringsAxle'] }) {
  const { bench, explain } = useBench();
  const dictionary = useDictionary();
  const rate = dictionary.shown('rate', bench.profile);
  return (
    <div className="asked">
      <span className="big-label">Required rate</span>
      {axle.wanted_rate !== null ? (
        <button
          type="button"
          className="figure figure-big"
          onClick={() => explain(axle.figure, axle.axle)}
        >
          <span className="equals" aria-hidden="true">
            =
          </span>
          <b>{showValue(axle.wanted_rate, rate)}</b>
          <small>{rate.symbol}</small>
          {(bench.figures[axle.figure]?.estimated.length ?? 0) > 0 && (
            <span className="estimate">est.</span>
          )}
        </button>
      ) : axle.problem ? (
        <Notice>{axle.problem}</Notice>
      ) : (
        <ul className="needs">
          {axle.missing.map((need) => (
            <li key={need.name}>
              needs{' '}
              <Link to={dictionary.whereEntered(bench.id, bench.discipline, need.name) ?? ''}>
                {need.sentence}
              </Link>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

interface CandidatesProps {
  axle: Schemas['SpringsAxle'];
  fitted: string[];
  drafted: string[];
  choose: ((code: string) => void) | null;
}

function Candidates({ axle, fitted, drafted, choose }: CandidatesProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const rate = dictionary.shown('rate', bench.profile);
  const height = dictionary.shown('height', bench.profile);
  return (
    <Table size="sm" className="candidates">
      <thead>
        <tr>
          <th scope="col">{rate.symbol}</th>
          <th scope="col">gives, Hz</th>
          <th scope="col">R/F</th>
          <th scope="col">static compression, {height.symbol}</th>
          <th scope="col">preload at full droop, {height.symbol}</th>
          <th scope="col">
            <span className="visually-hidden">Fit</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {axle.candidates.map((one, i) => (
          <CandidateRow
            key={one.code}
            one={one}
            axle={axle.axle}
            isNearest={i === 0 && axle.wanted_rate !== null}
            here={fitted.includes(one.code)}
            there={drafted.includes(one.code)}
            isSettled={drafted.length === 0}
            choose={choose}
          />
        ))}
      </tbody>
    </Table>
  );
}

interface RowProps {
  one: CandidatesProps['axle']['candidates'][number];
  axle: string;
  isNearest: boolean;
  /** Whether it is fitted, whether it is on the slip, and whether nothing else of the axle is. */
  here: boolean;
  there: boolean;
  isSettled: boolean;
  choose: CandidatesProps['choose'];
}

/** A spring of the inventory, and what it would give. */
function CandidateRow({ one, axle, isNearest, here, there, isSettled, choose }: RowProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const rate = dictionary.shown('rate', bench.profile);
  const height = dictionary.shown('height', bench.profile);
  const least = dictionary.data.coil_bind_margin;
  const loose = one.seat_at_droop !== null && one.seat_at_droop <= 0;
  const binds = one.bind_margin !== null && one.bind_margin < least;
  return (
    <tr className={there ? 'is-drafted' : here ? 'is-fitted' : undefined}>
      <th scope="row">
        {showValue(one.rate, rate)}
        <span className="code">
          {one.code}
          {isNearest && <span className="tag">nearest</span>}
        </span>
      </th>
      <td>{one.frequency === null ? '–' : one.frequency.toFixed(2)}</td>
      <td>{one.frequency_ratio === null ? '–' : one.frequency_ratio.toFixed(2)}</td>
      <td>{one.compression === null ? '–' : showValue(one.compression, height)}</td>
      <td>
        {one.seat_at_droop === null ? (
          '–'
        ) : loose ? (
          <span
            className="word-doubtful"
            title="Loose at full droop: a helper spring, or less droop."
          >
            <StatusMark status="doubtful" /> loose by {showValue(-one.seat_at_droop, height)}
          </span>
        ) : (
          showChange(one.seat_at_droop, height)
        )}
        {binds && (
          <span className="word-void" title="Too little room before the coils touch at full bump.">
            <StatusMark status="void" /> binds
          </span>
        )}
      </td>
      <td className="fit">
        {here && !there && isSettled ? (
          <b>fitted</b>
        ) : there ? (
          <b className="drafted">on the slip</b>
        ) : (
          choose && (
            <button type="button" className="quiet" onClick={() => choose(one.code)}>
              {here ? 'keep' : 'fit'}
              <span className="visually-hidden">
                {' '}
                {one.code} {axle}
              </span>
            </button>
          )
        )}
      </td>
    </tr>
  );
}

/** The two schools on how far the rear should be ahead of the front; both are offered. */
export function FrequencySchools() {
  const { bench } = useBench();
  const may = useMay('give');
  const dictionary = useDictionary();
  const schools = dictionary.data.schools.filter((one) => one.topic === 'frequency_split');
  const front = bench.given.target_frequency?.values[0];
  const rear = bench.given.target_frequency?.values[1];
  const aim = api.useMutation('patch', '/api/cars/{car_id}/given', useSaved());
  const take = (rear: number) =>
    aim.mutate({
      params: { path: { car_id: bench.id } },
      body: {
        values: { target_frequency: [front ?? null, rear] },
        seen: { target_frequency: bench.given.target_frequency?.values ?? null },
      },
    });
  return (
    <section className="split">
      <BigFigure name="frequency_ratio" />
      <div>
        <h2>Rear against front: two schools</h2>
        {aim.error && <Notice tone="draft">{aim.error.message}</Notice>}
        <ul>
          {schools.map((school) => {
            const held = front && rear && rear / front >= school.low && rear / front <= school.high;
            return (
              <li key={school.id} className={held ? 'is-held' : undefined}>
                <b>{school.label}</b> {school.low.toFixed(2)} to {school.high.toFixed(2)}.{' '}
                {school.reason}
                {may && front && (
                  <button
                    type="button"
                    className="quiet"
                    onClick={() => take(Math.round(front * school.offer * 100) / 100)}
                  >
                    Set the rear target to{' '}
                    {(Math.round(front * school.offer * 100) / 100).toFixed(2)} Hz
                  </button>
                )}
                {held && <small> your targets follow this one</small>}
              </li>
            );
          })}
        </ul>
      </div>
    </section>
  );
}
