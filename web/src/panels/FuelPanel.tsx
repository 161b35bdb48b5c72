/** Fuel from start to finish: what each corner carries, the shares, the balance; booked and drafted. */
import { useQuery } from '@tanstack/react-query';
import Table from 'react-bootstrap/Table';
import { useBench } from '../bench/bench';
import { GivenField } from '../bench/GivenField';
import { Needs } from '../bench/Needs';
import type { NumberName, Schemas } from '../lib/client';
import { showChange, showValue, type Shown } from '../lib/format';
import { fuelQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { Notice } from '../ui/marks';
import { Waiting } from '../ui/states';
import type { PanelProps } from './props';
import { WideTable } from '../ui/WideTable';

type Burn = Schemas['BurnView'];
type Fuelled = Schemas['FuelledView'];
const COLUMNS = ['weighed', 'start', 'finish'] as const;
const BALANCE: Shown = { symbol: 'g', factor: 1, offset: 0, precision: 0.001 };

export function FuelPanel({ panel }: PanelProps) {
  const { bench } = useBench();
  const found = useQuery(fuelQuery(bench.id));
  const told = found.data;
  if (found.isError) return <Notice>{found.error.message}</Notice>;
  if (!told) return <Waiting what="Working out the fuel" />;
  const status = bench.figures.pad_mass?.status;
  const own = new Set<NumberName>(panel.names);
  const needs = told.needs.filter((one) => !own.has(one.name));
  return (
    <section className="fuel">
      <h2>Fuel, start to finish</h2>
      <div className="load-case">
        {panel.names.map((name) => (
          <GivenField key={name} name={name} places={['car']} />
        ))}
      </div>
      {needs.length > 0 && (
        <Notice>
          To follow the fuel it needs <Needs needs={needs} />.
        </Notice>
      )}
      {told.booked && status && status !== 'fresh' && (
        <Notice>
          The pads it starts from are {status}: read them again before you rely on it.
        </Notice>
      )}
      {told.refused && <Notice>{told.refused}</Notice>}
      {told.booked && <BurnTable booked={told.booked} drafted={told.drafted} />}
    </section>
  );
}

function BurnTable({ booked, drafted }: { booked: Burn; drafted: Burn | null }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const of = (quantity: string) => dictionary.shown(quantity, bench.profile);
  const corners = dictionary.places('pad_mass');
  const rows: {
    label: string;
    shown: Shown;
    signed?: boolean;
    of: (one: Fuelled) => number | null;
  }[] = [
    { label: 'Fuel', shown: of('mass'), of: (one) => one.fuel },
    ...corners.map((place, i) => ({
      label: place,
      shown: of('mass'),
      of: (one: Fuelled) => one.pads[i] ?? null,
    })),
    { label: 'Front share', shown: of('share'), of: (one) => one.front_share },
    { label: 'Cross weight', shown: of('share'), of: (one) => one.cross_share },
    { label: 'Rear bite', shown: of('mass'), of: (one) => one.rear_bite },
    { label: 'Front height', shown: of('height'), signed: true, of: (one) => mean(one.heights, 0) },
    { label: 'Rear height', shown: of('height'), signed: true, of: (one) => mean(one.heights, 2) },
    {
      label: 'Grip balance, − front first',
      shown: BALANCE,
      of: (one) => one.balance,
    },
  ];
  return (
    <WideTable label="As the tank empties">
      <Table size="sm" className="geometry-here">
        <thead>
          <tr>
            <th scope="col"></th>
            <th scope="col">as weighed</th>
            <th scope="col">at the start</th>
            <th scope="col">at the finish</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.label}>
              <th scope="row">
                {row.label} <small>{row.shown.symbol}</small>
              </th>
              {COLUMNS.map((column) => {
                const now = row.of(booked[column]);
                const then = drafted && row.of(drafted[column]);
                const say = (value: number | null) =>
                  value === null ? '–' : (row.signed ? showChange : showValue)(value, row.shown);
                return (
                  <td key={column}>
                    <b>{say(now)}</b>
                    {then !== null && say(then) !== say(now) && (
                      <b className="drafted"> → {say(then)}</b>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </Table>
    </WideTable>
  );
}

const mean = (heights: number[], at: number) => ((heights[at] ?? 0) + (heights[at + 1] ?? 0)) / 2;
