/** Figures of the four corners against their bands: where each stands, and where the slip takes it. */
import Table from 'react-bootstrap/Table';
import { useBench } from '../bench/bench';
import { BandBar, Figure } from '../bench/Figure';
import { useDictionary } from '../lib/vocabulary';
import type { PanelProps } from './props';
import { WideTable } from '../ui/WideTable';

export function BandsPanel({ panel }: PanelProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const names = panel.names.filter((name) => bench.figures[name] !== undefined);
  const first = names[0];
  if (first === undefined) return null;
  return (
    <WideTable label="Against their bands">
      <Table size="sm" className="bands-panel">
        <thead>
          <tr>
            <td />
            {dictionary.places(first).map((place) => (
              <th key={place} scope="col">
                {place}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {names.map((name) => (
            <tr key={name}>
              <th scope="row">{dictionary.entry(name).label}</th>
              {dictionary.places(name).map((place) => (
                <td key={place}>
                  <Figure name={name} place={place} />
                  <BandBar name={name} place={place} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
    </WideTable>
  );
}
