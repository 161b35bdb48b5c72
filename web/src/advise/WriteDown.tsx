/** Settings that nobody has written down and a cure would step: asked for beside the cures. */
import { AsFoundForm } from '../bench/AsFoundForm';
import type { Schemas } from '../lib/client';
import { useMay } from '../lib/me';

interface Props {
  of: Schemas['AdvisedView'][];
  again: () => void;
}

export function WriteDown({ of, again }: Props) {
  const may = useMay('draft');
  const every = of.flatMap((one) => one.asks.map((place) => ({ name: one.number, place })));
  const asked = every.filter(
    (one, i) => every.findIndex((each) => each.name === one.name && each.place === one.place) === i,
  );
  if (asked.length === 0 || !may) return null;
  return (
    <section className="write-down" aria-label="Write down first">
      <h2>Write down first</h2>
      <p className="hint">
        What these stand at now, as found and not as a change: the cures below can then be sized.
      </p>
      <AsFoundForm asked={asked} done={again} />
    </section>
  );
}
