/** What this car's layout is drawn and worked from, typed where it is looked at. */
import { GivenFields } from '../bench/GivenField';
import { useBench } from '../bench/bench';
import { useDictionary } from '../lib/vocabulary';
import type { PanelProps } from './props';

export function FactsPanel({ panel }: PanelProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const names = panel.names.filter((name) => {
    const { layouts } = dictionary.entry(name);
    return !layouts.length || layouts.includes(bench.rear_layout);
  });
  return (
    <section className="facts" aria-label="Measured on the car">
      <h2>Measured on the car</h2>
      <div className="given-row">
        {names.map((name) => (
          <GivenFields key={name} name={name} />
        ))}
      </div>
    </section>
  );
}
