/** Every combination of the bars that this car has: share, balance and roll; one press to the slip. */
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Table from 'react-bootstrap/Table';
import { useBench } from '../bench/bench';
import { useSetting, useSlip, type Change } from '../bench/slip';
import type { Schemas } from '../lib/client';
import { capital, showValue, type Shown } from '../lib/format';
import { useMay } from '../lib/me';
import { ladderQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { Pick } from '../ui/fields';
import { Waiting } from '../ui/states';
import type { PanelProps } from './props';
import { WideTable } from '../ui/WideTable';

type Rail = Schemas['RailView'];
type Rung = Schemas['RungView'];
type Beside = 'balance' | 'roll';

const BESIDE = [
  ['balance', 'Grip balance'],
  ['roll', 'Roll'],
] as const;
const IN_G: Shown = { symbol: 'g', factor: 1, offset: 0, precision: 0.001 };

export function LadderPanel({ panel }: PanelProps) {
  const { bench } = useBench();
  const [beside, setBeside] = useState<Beside>('balance');
  const found = useQuery({
    ...ladderQuery(bench.id, panel.names),
    placeholderData: (before) => before,
  });
  if (found.isError) return <p className="hint">{found.error.message}</p>;
  if (!found.data) return <Waiting what="Working every combination" />;
  const { missing, front, rear, rungs } = found.data;
  return (
    <section className={`ladder${found.isPlaceholderData ? ' is-stale' : ''}`}>
      <h2>Every bar combination</h2>
      {missing && <p className="hint">{missing}</p>}
      {front && rear && (
        <>
          <Pick legend="Second figure" options={BESIDE} value={beside} set={setBeside} />
          <Rungs front={front} rear={rear} rungs={rungs} beside={beside} />
        </>
      )}
    </section>
  );
}

interface RungsProps {
  front: Rail;
  rear: Rail;
  rungs: Rung[][];
  beside: Beside;
}

function Rungs({ front, rear, rungs, beside }: RungsProps) {
  const { bench } = useBench();
  const rate = useDictionary().shown('rate', bench.profile);
  const at = { front: useDrafted(front), rear: useDrafted(rear) };
  const head = (rail: Rail, i: number) => (
    <>
      {capital(rail.axle)} {rail.setting ? showSetting(rail.values[i]) : 'as it is'}
      <small>
        {showKnown(rail.rates[i], rate)} {rate.symbol}
      </small>
    </>
  );
  return (
    <>
      <p className="hint">
        Front share of load transfer in %,{' '}
        {beside === 'balance' ? 'grip balance in g (−: front slides first)' : 'roll per g'} under
        it. Shaded: within the starting band. Worked from the setup on the car, without the slip.
      </p>
      <WideTable label="Bar combinations">
        <Table size="sm">
          <thead>
            <tr>
              <td />
              {rear.values.map((_, j) => (
                <th key={j} scope="col">
                  {head(rear, j)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rungs.map((row, i) => (
              <tr key={i}>
                <th scope="row">{head(front, i)}</th>
                {row.map((rung, j) => (
                  <Cell
                    key={j}
                    rung={rung}
                    beside={beside}
                    words={`Front ${showSetting(front.values[i])}, rear ${showSetting(rear.values[j])}`}
                    here={isHere(front, i) && isHere(rear, j)}
                    drafted={at.front === i && at.rear === j}
                    changes={[...changeTo(front, i), ...changeTo(rear, j)]}
                  />
                ))}
              </tr>
            ))}
          </tbody>
        </Table>
      </WideTable>
    </>
  );
}

interface CellProps {
  rung: Rung;
  beside: Beside;
  words: string;
  here: boolean;
  drafted: boolean;
  changes: Change[];
}

function Cell({ rung, beside, words, here, drafted, changes }: CellProps) {
  const { bench } = useBench();
  const { change } = useSlip();
  const may = useMay('draft');
  const dictionary = useDictionary();
  const share = dictionary.shown('share', bench.profile);
  const under = beside === 'balance' ? IN_G : dictionary.shown('roll_gradient', bench.profile);
  const marks = [
    rung.in_band ? 'in-band' : '',
    here ? 'is-here' : '',
    drafted && !here ? 'is-drafted' : '',
  ].join(' ');
  return (
    <td className={marks}>
      <button type="button" disabled={!may} aria-pressed={drafted} onClick={() => change(changes)}>
        <span className="visually-hidden">{words}: front share</span>
        <b>{showKnown(rung.front_share, share)}</b>
        <small>{showKnown(rung[beside], under)}</small>
        {here && <span className="visually-hidden">, on the car now</span>}
      </button>
    </td>
  );
}

/** Which rung an axle would stand on after the slip. */
function useDrafted(rail: Rail): number | null {
  const { value } = useSetting(rail.setting ?? 'bar_hole', rail.axle);
  return rail.setting ? rail.values.indexOf(typeof value === 'number' ? value : null) : 0;
}

const isHere = (rail: Rail, i: number) => !rail.setting || rail.here === i;

function changeTo(rail: Rail, i: number): Change[] {
  const to = rail.values[i];
  return rail.setting && typeof to === 'number'
    ? [{ name: rail.setting, place: rail.axle, new: to }]
    : [];
}

const showSetting = (value: number | null | undefined) =>
  typeof value === 'number' ? String(value) : 'as it is';
const showKnown = (value: number | null | undefined, shown: Shown) =>
  typeof value === 'number' ? showValue(value, shown) : '–';
