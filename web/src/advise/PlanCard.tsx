/** One plan of work: how near it comes, what is done in which order, and what is read again. */
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { useBench } from '../bench/bench';
import { useSlip } from '../bench/slip';
import { changesOf } from '../bench/slipState';
import type { Schemas } from '../lib/client';
import { showMove, showValue } from '../lib/format';
import { useMay } from '../lib/me';
import { useDictionary, whereWords } from '../lib/vocabulary';
import { StatusMark } from '../ui/marks';

type Plan = Schemas['PlanView'];
type Reached = Schemas['ReachedView'];

export function PlanCard({ one, at, longest }: { one: Plan; at: number; longest: number }) {
  const { bench } = useBench();
  const slip = useSlip();
  const may = useMay('draft');
  const put = () => {
    slip.change(changesOf(one.lines));
    slip.words({
      why: slip.wish.why || 'Plan of work',
      expectation: slip.wish.expectation || one.expectation,
    });
  };
  return (
    <li className="plan-card" aria-label={`Plan ${at}`}>
      <h2>
        {one.minutes} <small>min</small>
        <span className={one.met ? undefined : 'hint'}>
          {one.met ? 'all reached' : 'not all reached'}
        </span>
      </h2>
      <div className="candidate-scale is-price">
        <span style={{ inlineSize: `${((100 * one.minutes) / longest).toFixed(1)}%` }} />
      </div>
      <ul className="plan-reached">
        {one.reached.map((each) => (
          <Toward key={each.name + each.place} one={each} />
        ))}
      </ul>
      <h3>Change</h3>
      <ol className="plan-work">
        {one.work.map((each) => (
          <li key={each.said}>
            {each.station ? (
              <Link to={`/cars/${bench.id}/${each.station}`}>{each.said}</Link>
            ) : (
              each.said
            )}{' '}
            <small>{each.minutes} min</small>
          </li>
        ))}
      </ol>
      {one.besides.length > 0 && (
        <>
          <h3>Moves besides</h3>
          <ul className="plan-again">
            {one.besides.map((each) => (
              <Besides key={each.name + each.place} one={each} />
            ))}
          </ul>
        </>
      )}
      {one.rechecks.length > 0 && (
        <>
          <h3>Read again</h3>
          <ul className="plan-again">
            {one.rechecks.map((each) => (
              <li key={each.kind}>
                <StatusMark status={each.verdict === 'void' ? 'void' : 'doubtful'} /> {each.label}{' '}
                <small>{each.minutes} min</small>
              </li>
            ))}
          </ul>
        </>
      )}
      {one.notes.map((said) => (
        <p key={said} className="hint">
          {said}
        </p>
      ))}
      {may && (
        <Button variant="outline-dark" onClick={put}>
          Put on the slip<span className="visually-hidden"> plan {at}</span>
        </Button>
      )}
    </li>
  );
}

const WIDE = 200;

/** A target as a line: where the figure is, where it is wanted, and where the plan brings it. */
/** A figure nobody asked for that the plan moves by as much as a driver feels. */
function Besides({ one }: { one: Plan['besides'][number] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(one.name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const move = showMove(one.before, one.after, shown);
  return (
    <li>
      {whereWords(entry.label, [one.place])} {move.before} → <b>{move.after}</b>{' '}
      <small>{shown.symbol}</small>
    </li>
  );
}

function Toward({ one }: { one: Reached }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(one.name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const within = dictionary.data.aims.find((aim) => aim.number === one.name)?.within ?? 0;
  const ends = [one.before, one.after, one.wanted - within, one.wanted + within];
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const x = (value: number) => 8 + ((WIDE - 16) * (value - low)) / (high - low || 1);
  const move = showMove(one.before, one.after, shown);
  const said = `${move.before} → ${move.after}`;
  return (
    <li>
      <span>{whereWords(entry.label, [one.place])}</span>
      <b className={one.met ? undefined : 'word-doubtful'}>
        {said} <small>{shown.symbol}</small>
      </b>
      <svg
        viewBox={`0 0 ${WIDE} 18`}
        role="img"
        aria-label={`${said}, wanted ${showValue(one.wanted, shown)}`}
      >
        <path className="rail" d={`M8 9H${WIDE - 8}`} />
        <rect
          className="room"
          x={x(one.wanted - within)}
          y="4"
          width={Math.max(2, x(one.wanted + within) - x(one.wanted - within))}
          height="10"
        />
        <path className="wanted" d={`M${x(one.wanted)} 2V16`} />
        <circle className="now" cx={x(one.before)} cy="9" r="4" />
        <circle className="then" cx={x(one.after)} cy="9" r="4.5" />
      </svg>
    </li>
  );
}
