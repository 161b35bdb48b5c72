/** What is set beside what a check read of it, how far it is off, and how far it may be. */
import { Link } from 'react-router';
import Table from 'react-bootstrap/Table';
import { useBench, valueAt } from '../bench/bench';
import { settingOf, useSlip } from '../bench/slip';
import type { NumberName, Schemas } from '../lib/client';
import { finer, showMove, showValue } from '../lib/format';
import { useDictionary } from '../lib/vocabulary';
import { StatusMark } from '../ui/marks';
import { WideTable } from '../ui/WideTable';
import type { PanelProps } from './props';

export function SetAndRead({ station }: PanelProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const found = station.readings.flatMap((kind) => {
    const standing = bench.standings.find((one) => one.kind === kind);
    return (dictionary.reading(kind)?.numbers ?? [])
      .map((name) => dictionary.entry(name))
      .filter((entry) => entry.checks && bench.setup[entry.checks as NumberName])
      .map((entry) => ({ entry, standing }));
  });
  if (found.length === 0) return null;
  const told = found.find(({ entry }) => entry.tolerance)?.entry.tolerance as
    NumberName | undefined;
  const where = told && dictionary.whereEntered(bench.id, bench.discipline, told);
  return (
    <section className="set-and-read">
      <h2>Set and read</h2>
      <WideTable label="Set and read">
        <Table size="sm">
          <thead>
            <tr>
              <th scope="col">Setting</th>
              <th scope="col">set</th>
              <th scope="col">read</th>
              <th scope="col">off</th>
              <th scope="col">may be off</th>
            </tr>
          </thead>
          {found.map(({ entry, standing }) => (
            <Rows key={entry.name} entry={entry} standing={standing} />
          ))}
        </Table>
      </WideTable>
      {told && (
        <p className="hint">
          How far each may be off is yours to say, under{' '}
          <Link to={where ?? `/cars/${bench.id}/data`}>Car data</Link>.
        </p>
      )}
    </section>
  );
}

interface RowsProps {
  entry: Schemas['NumberEntry'];
  standing: Schemas['StandingView'] | undefined;
}

function Rows({ entry, standing }: RowsProps) {
  const { bench } = useBench();
  const { wish } = useSlip();
  const dictionary = useDictionary();
  const setting = dictionary.entry(entry.checks as NumberName);
  const shown = dictionary.shown(setting.quantity, bench.profile);
  const close = entry.tolerance ? finer(shown) : shown;
  const tolerance = valueAt(bench, entry.tolerance as NumberName) ?? entry.within;
  const values = standing?.values[entry.name];
  return (
    <tbody>
      {dictionary.places(setting.name).map((place, i) => {
        if (bench.not_here[setting.name]?.[place]) return null;
        const { booked, value, drafted } = settingOf(
          bench,
          wish,
          dictionary.places(setting.name),
          setting.name,
          place,
        );
        const read = values?.[i] ?? undefined;
        const off =
          typeof booked === 'number' && read !== undefined
            ? showMove(booked, read, close).change
            : undefined;
        const stands = bench.figures[entry.name]?.places[i] ?? standing?.status;
        const counts = stands === 'fresh' || stands === 'doubtful';
        const out = standing?.differs.some((one) => one.name === entry.name && one.place === place);
        return (
          <tr key={place}>
            <th scope="row">
              {setting.label}, {place} <small>{shown.symbol}</small>
            </th>
            <td>
              {typeof booked === 'number' ? showValue(booked, shown) : 'not set'}
              {drafted && typeof value === 'number' && (
                <>
                  {' '}
                  → <b className="drafted">{showValue(value, shown)}</b>
                </>
              )}
            </td>
            <td className={counts ? undefined : 'is-void'}>
              {read === undefined ? 'not read' : showValue(read, close)}
            </td>
            <td>
              {off ?? '–'} {out && <StatusMark status="doubtful" />}
            </td>
            <td>± {showValue(tolerance, close)}</td>
          </tr>
        );
      })}
    </tbody>
  );
}
