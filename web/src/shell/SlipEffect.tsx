/** What the slip would do: figures that move, readings predicted, what cannot be told, what to recheck. */
import { useBench } from '../bench/bench';
import { Needs } from '../bench/Needs';
import type { NumberName, Schemas } from '../lib/client';
import { showValue } from '../lib/format';
import { useDictionary, whereWords } from '../lib/vocabulary';
import { Notice, StatusMark, type Status } from '../ui/marks';

/** What the slip moves that cannot be told, each need one press from where it is entered. */
export function UnknownNotice({ one }: { one: Schemas['UnknownView'] }) {
  return (
    <Notice>
      {one.words}: not known
      {one.needs.length > 0 && ', it needs '}
      <Needs needs={one.needs} />.
    </Notice>
  );
}

export function Moved({ view }: { view: Schemas['SlipView'] }) {
  const { bench, explain } = useBench();
  const dictionary = useDictionary();
  const changed = new Set(view.lines.map((line) => line.name));
  // what the stations of the changed settings decide by; the balance is everybody's
  const decided = dictionary
    .stationsFor(bench)
    .filter((station) => station.sets.some((name) => changed.has(name)))
    .flatMap((station) => station.shows);
  const headlines: NumberName[] = [...new Set<NumberName>([...decided, 'cross_share', 'lltd'])];
  const rows = headlines.flatMap((name) => {
    const like = view.moved.filter((one) => one.name === name);
    const shown = dictionary.shown(dictionary.entry(name).quantity, bench.profile);
    const byText = new Map<string, { places: string[]; before: string; after: string }>();
    for (const one of like) {
      const before = one.before === null ? 'missing' : showValue(one.before, shown);
      const after = one.after === null ? 'missing' : showValue(one.after, shown);
      if (before === after) continue;
      const pair = axlePair(one.place);
      const known = byText.get(pair);
      if (known) known.places.push(one.place);
      else byText.set(pair, { places: [one.place], before, after });
    }
    return [...byText.values()].map((row) => ({ name, shown, ...row }));
  });
  return (
    <section>
      <h3>Effect</h3>
      {rows.length === 0 && (
        <p className="hint">
          {view.effect_known && view.unknown.length === 0
            ? 'No significant change.'
            : 'Not known from the figures. The charts and the car under load may show more.'}
        </p>
      )}
      <Predicted view={view} />
      <ul className="lines">
        {rows.map((row) => (
          <li key={row.name + row.places.join()}>
            <button type="button" className="link" onClick={() => explain(row.name, row.places[0])}>
              {whereWords(dictionary.entry(row.name).label, row.places)}
            </button>
            <span className="from-to">
              {row.before} <i>→</i> <b>{row.after}</b> <small>{row.shown.symbol}</small>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What instruments would read after the slip: beside the readings that no longer count. */
function Predicted({ view }: { view: Schemas['SlipView'] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  return view.predicted.map((name) => {
    const entry = dictionary.entry(name);
    const shown = dictionary.shown(entry.quantity, bench.profile);
    const after = view.after[name];
    if (!after) return null;
    return (
      <dl key={name} className="predicted-row" aria-label={`${entry.label}, predicted`}>
        <dt>
          {entry.label} <em className="predicted">predicted</em>
        </dt>
        {dictionary.places(name).map((place, i) => (
          <dd key={place}>
            <small>{place}</small> <b>{showValue(after[i] ?? 0, shown)}</b>
          </dd>
        ))}
      </dl>
    );
  });
}

/** Left and right of an axle are shown as one row, by the left one. */
function axlePair(place: string): string {
  if (place === 'LF' || place === 'RF') return 'pair front';
  if (place === 'LR' || place === 'RR') return 'pair rear';
  return place;
}

export function Rechecks({ view }: { view: Schemas['SlipView'] }) {
  if (view.rechecks.length === 0) return null;
  return (
    <section>
      <h3>
        Recheck before the car runs <small>{view.minutes} min</small>
      </h3>
      <ul className="rechecks">
        {view.rechecks.map((one) => (
          <li key={one.kind} title={one.how}>
            <StatusMark status={one.verdict as Status} />
            <span>
              {one.label}
              <small>
                {one.verdict}: {lower(one.why)}
              </small>
            </span>
            <span className="minutes">{one.minutes} min</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function lower(text: string): string {
  return text.charAt(0).toLowerCase() + text.slice(1);
}
