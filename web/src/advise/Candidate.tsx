/** One change that could be made: what it moves, what it takes, what it came to before. */
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { useBench } from '../bench/bench';
import { useSlip } from '../bench/slip';
import { changesOf } from '../bench/slipState';
import type { Schemas } from '../lib/client';
import { showChange, showMove, type Shown } from '../lib/format';
import { useMay } from '../lib/me';
import { useDictionary, whereWords } from '../lib/vocabulary';
import { StatusMark } from '../ui/marks';
import { howFelt } from './felt';

type Advised = Schemas['AdvisedView'];

const IN_G: Shown = { symbol: 'g', factor: 1, offset: 0, precision: 0.001 };
/** Beyond this many felt steps a change is coarse, not better. */
const COARSE = 3;

interface Props {
  one: Advised;
  /** What the slip says it is for, where nothing is written there yet. */
  why: string;
  /** The longest job of those offered [min]: the scale of the bars. */
  longest: number;
}

export function Candidate({ one, why, longest }: Props) {
  const slip = useSlip();
  const may = useMay('draft');
  const put = () => {
    slip.change(changesOf(one.lines));
    slip.words({
      why: slip.wish.why || why,
      expectation: slip.wish.expectation || one.expectation,
    });
  };
  const school = useDictionary().data.views.find((view) => view.id === one.school);
  const rechecks = one.total_minutes - one.minutes;
  return (
    <li className="candidate">
      <div className="candidate-head">
        <h2>{one.label}</h2>
        {school && <small>{school.label.toLowerCase()}</small>}
        {may && (
          <Button variant="outline-dark" onClick={put}>
            Put on the slip<span className="visually-hidden"> {one.label}</span>
          </Button>
        )}
      </div>
      <p>{one.reason}</p>
      <p className="hint">Costs: {one.costs}</p>
      <div className="candidate-scales">
        <Scale
          label={one.effects.length ? `driver will feel: ${howFelt(one.felt)}` : 'size not known'}
          share={Math.min(one.felt, COARSE) / COARSE}
        />
        <Scale
          label={`${one.total_minutes} min, ${rechecks} of them rechecks`}
          share={one.total_minutes / longest}
          price
        />
      </div>
      <Effects one={one} />
      <p className="hint">
        Confidence <b>{one.confidence}</b>: {one.confidence_why}.
      </p>
      {one.warnings.length > 0 && (
        <ul className="candidate-warnings">
          {one.warnings.map((said) => (
            <li key={said}>
              <StatusMark status="doubtful" /> {said}
            </li>
          ))}
        </ul>
      )}
      <Judged one={one} />
      {one.rechecks.length > 0 && (
        <details>
          <summary>Rechecks</summary>
          <ul>
            {one.rechecks.map((each) => (
              <li key={each.kind}>
                <StatusMark status={each.verdict === 'void' ? 'void' : 'doubtful'} />{' '}
                <b>{each.label}</b> {each.minutes} min. {each.why}
              </li>
            ))}
          </ul>
        </details>
      )}
    </li>
  );
}

/** A length between nothing and all of a scale that every change shares. */
function Scale({ label, share, price = false }: { label: string; share: number; price?: boolean }) {
  return (
    <div className={`candidate-scale${price ? ' is-price' : ''}`}>
      <span style={{ inlineSize: `${(100 * share).toFixed(1)}%` }} />
      <small>{label}</small>
    </div>
  );
}

/** The figures it is for, before and after; both sides of an axle in one line where they are alike. */
function Effects({ one }: { one: Advised }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const balance = dictionary.entry('grip_balance');
  const rows = new Map<string, { label: string; places: string[]; said: string; unit: string }>();
  for (const effect of [...one.effects, ...one.loads]) {
    const entry = dictionary.entry(effect.name);
    const shown = dictionary.shown(entry.quantity, bench.profile);
    const move = showMove(effect.before, effect.after, shown);
    const said = `${move.before} → ${move.after}`;
    const known = rows.get(effect.name + said);
    if (known) known.places.push(effect.place);
    else
      rows.set(effect.name + said, {
        label: entry.label,
        places: [effect.place],
        said,
        unit: shown.symbol,
      });
  }
  if (rows.size === 0 && one.balance === null) return null;
  return (
    <ul className="candidate-effects">
      {[...rows.entries()].map(([key, row]) => (
        <li key={key}>
          <span>{whereWords(row.label, row.places)}</span>
          <b>
            {row.said} <small>{row.unit}</small>
          </b>
        </li>
      ))}
      {one.balance !== null && (
        <li>
          <span>
            {balance.label} <small>{balance.sign}</small>
          </span>
          <b>
            {showChange(one.balance, IN_G)} <small>{IN_G.symbol}</small>
          </b>
        </li>
      )}
    </ul>
  );
}

function Judged({ one }: { one: Advised }) {
  const { bench } = useBench();
  if (one.before.length === 0) return null;
  return (
    <ul className="candidate-before" aria-label="What it came to before">
      {one.before.map((each) => (
        <li key={`${each.car}${each.revision}`}>
          <b className={`outcome outcome-${each.outcome}`}>{each.outcome}</b>{' '}
          {each.car ? (
            `on ${each.car}, revision ${each.revision}`
          ) : (
            <>
              here, <Link to={`/cars/${bench.id}/logbook`}>revision {each.revision}</Link>
            </>
          )}
          {each.words && `: “${each.words}”`}
          {each.conditions && <small> {each.conditions}</small>}
        </li>
      ))}
    </ul>
  );
}
