/** What a flat of preload does to where the car goes: learned from the passes that were written down. */
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { useBench } from '../bench/bench';
import { showValue } from '../lib/format';
import { lineErrorQuery } from '../lib/queries';
import { useDictionary } from '../lib/vocabulary';

const [WIDE, ROW, SIDE] = [240, 20, 96];

export function LineErrorPanel() {
  const { bench } = useBench();
  const shown = useDictionary().shown('dimension', bench.profile);
  const found = useQuery(lineErrorQuery(bench.id));
  if (!found.data) return null;
  const { passes, said } = found.data;
  const most = Math.max(0.1, ...passes.map((one) => Math.abs(one.off)));
  return (
    <section className="line-error" aria-label="Drift from lane at 60 ft">
      <h2>Drift from lane at 60 ft</h2>
      <p className={said ? undefined : 'hint'}>
        {said || 'Learned from three passes or more, at two flats or more, the rest set alike. '}
        {!said && (
          <Link to={`/cars/${bench.id}/logbook`}>Write down how far off its line a pass was.</Link>
        )}
      </p>
      {passes.length > 0 && (
        <ol className="line-error-passes" aria-label="Passes">
          {passes.map((one, i) => {
            const at = WIDE / 2 - (SIDE * one.off) / most;
            return (
              <li key={i}>
                <span>
                  {showValue(one.flats, { symbol: '', factor: 1, offset: 0, precision: 0.5 })} flats
                </span>
                <svg viewBox={`0 0 ${WIDE} ${ROW}`} aria-hidden="true">
                  <path className="rail" d={`M${WIDE / 2} 0V${ROW}`} />
                  <path className="reach" d={`M${WIDE / 2} ${ROW / 2}H${at}`} />
                  <circle cx={at} cy={ROW / 2} r="4" />
                </svg>
                <b>
                  {showValue(Math.abs(one.off), shown)} <small>{shown.symbol}</small>{' '}
                  {one.off > 0 ? 'left' : one.off < 0 ? 'right' : ''}
                </b>
              </li>
            );
          })}
        </ol>
      )}
    </section>
  );
}
