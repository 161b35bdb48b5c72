/** A plan of work: figures wanted together, what may be touched, and the few best ways there. */
import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { useBench } from '../bench/bench';
import { Problem, type NumberName, type Schemas } from '../lib/client';
import { plansQuery, type PlanAsked } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';
import { Notice } from '../ui/marks';
import { Empty, Waiting } from '../ui/states';
import { PlanAsks } from './PlanAsks';
import { PlanCard } from './PlanCard';

/** What is asked, from the address: it can be gone back to, sent on, and come from the command line. */
function useAsked(): [PlanAsked, (asked: PlanAsked) => void] {
  const [query, setQuery] = useSearchParams();
  const minutes = Number.parseInt(query.get('m') ?? '', 10);
  const asked: PlanAsked = {
    targets: query.getAll('t').map((one) => {
      const [name = '', place = '', ...value] = one.split(':');
      return { name: name as NumberName, place, value: value.join(':') };
    }),
    systems: query.getAll('s'),
    minutes: Number.isFinite(minutes) ? minutes : null,
    spare: query.getAll('k'),
  };
  return [
    asked,
    ({ targets, systems, minutes: most, spare }) => {
      const next = new URLSearchParams();
      for (const one of targets) next.append('t', `${one.name}:${one.place}:${one.value}`);
      for (const one of systems) next.append('s', one);
      for (const one of spare) next.append('k', one);
      if (most) next.set('m', String(most));
      setQuery(next);
    },
  ];
}

export function PlanOfWork() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const [asked, ask] = useAsked();
  const systems = dictionary.data.systems.filter((one) =>
    one.numbers.some((name) => bench.setup[name] !== undefined),
  );
  const given = asked.systems.length > 0 ? asked : { ...asked, systems: systems.map((s) => s.id) };
  const found = useQuery({
    ...plansQuery(bench.id, given),
    enabled: asked.targets.length > 0,
    retry: false,
  });
  const problem = found.error instanceof Problem ? found.error : null;
  const atField = problem?.errors.some((one) => one.number?.startsWith('value-')) ?? false;
  return (
    <article className="plan-of-work">
      <div className="sheet-head">
        <h1>Plan of work</h1>
        <p>Figures wanted together, and the fewest minutes that reach them, rechecks counted.</p>
      </div>
      <PlanAsks
        key={JSON.stringify(asked)}
        asked={given}
        systems={systems}
        problem={problem}
        busy={found.isFetching}
        ask={ask}
      />
      {asked.targets.length === 0 && (
        <Empty title="Nothing asked yet.">
          Name a figure and the value it should have; add others that must hold at the same time.
        </Empty>
      )}
      {found.isFetching && <Waiting what="Trying set-ups" />}
      {found.error && !atField && <Notice tone="draft">{found.error.message}</Notice>}
      {found.data && !found.isFetching && !problem && <Found found={found.data} />}
    </article>
  );
}

function Found({ found }: { found: Schemas['PlansView'] }) {
  const longest = Math.max(1, ...found.plans.map((one) => one.minutes));
  return (
    <section aria-label="Plans">
      {found.count > 1 && (
        <p className="hint">
          {found.count.toLocaleString()} set-ups tried; each plan below is worked afresh as a whole.
        </p>
      )}
      {found.notes.map((said) => (
        <Notice key={said} tone="plain">
          {said}
        </Notice>
      ))}
      <ol className="plans">
        {found.plans.map((one, i) => (
          <PlanCard key={i} one={one} at={i + 1} longest={longest} />
        ))}
      </ol>
    </section>
  );
}
