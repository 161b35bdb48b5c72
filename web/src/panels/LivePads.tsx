/** The pads under the car, live: rolled and bounced, still, taken into the reading. */
import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useBench } from '../bench/bench';
import { ask, client, Problem, type Schemas } from '../lib/client';
import { showValue } from '../lib/format';
import { CORNERS, useDictionary } from '../lib/vocabulary';
import { Notice } from '../ui/marks';

type Frame = Schemas['PadsView'];

const EVERY = 700;
/** A reading is the mean of so many frames that stood still. */
const MEAN_OF = 5;
/** Pads are read to a tenth, finer than the shop shows a mass. */
const FINE = 0.1;

/** The frames of the pads while they are connected; each settle begins the mean anew. */
function useFrames(on: boolean, settles: number) {
  const { bench } = useBench();
  const [frames, setFrames] = useState<Frame[]>([]);
  const [problem, setProblem] = useState('');
  useEffect(() => {
    if (!on) return undefined;
    let [over, settle] = [false, settles > 0];
    const look = async () => {
      while (!over) {
        try {
          const frame = await ask(
            client.POST('/api/cars/{car_id}/instruments/pads', {
              params: { path: { car_id: bench.id } },
              body: { settle },
            }),
          );
          settle = false;
          setProblem('');
          setFrames((old) => [...(frame.still ? old : []), frame].slice(-MEAN_OF));
        } catch (silence) {
          setProblem(silence instanceof Problem ? silence.detail : String(silence));
          setFrames([]);
        }
        await new Promise((done) => setTimeout(done, EVERY));
      }
    };
    void look();
    return () => {
      over = true;
    };
  }, [on, settles, bench.id]);
  return { frames, problem, forget: () => setFrames([]) };
}

/** `take` gets the four loads as they would be typed. */
export function LivePads({ take }: { take: (typed: Record<string, string>) => void }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const shown = dictionary.shown('mass', bench.profile);
  const [on, setOn] = useState(false);
  const [settles, setSettles] = useState(0);
  const { frames, problem, forget } = useFrames(on, settles);
  if (!on)
    return (
      <Button variant="outline-dark" onClick={() => setOn(true)}>
        Connect the pads
      </Button>
    );
  const last = frames.at(-1);
  const lost = CORNERS.filter((_, i) => last?.loads[i] === null);
  const still = frames.length === MEAN_OF && frames.every((one) => one.still);
  const mean = CORNERS.map((_, i) => {
    const known = frames.flatMap((one) => one.loads[i] ?? []);
    return known.reduce((sum, one) => sum + one, 0) / (known.length || 1);
  });
  return (
    <div className="live-pads" aria-label="The pads now" role="group">
      <div className="live-pads-loads">
        {CORNERS.map((place, i) => {
          const load = last?.loads[i];
          return (
            <span key={place}>
              {place} <b>{load === null || load === undefined ? '–' : showValue(load, shown)}</b>{' '}
              <small>{shown.symbol}</small>
            </span>
          );
        })}
      </div>
      <p className="hint" role="status">
        {!last ? 'Waiting for the pads …' : still ? 'Still.' : 'Moving …'}
      </p>
      {problem && <Notice tone="draft">{problem}</Notice>}
      {lost.length > 0 && (
        <Notice>The {lost.join(' and ')} pad gives nothing: check its cable.</Notice>
      )}
      <div className="form-acts">
        <Button variant="outline-dark" onClick={() => setSettles(settles + 1)}>
          Rolled and bounced
        </Button>
        <Button
          variant="outline-dark"
          disabled={!still || lost.length > 0}
          onClick={() =>
            take(
              Object.fromEntries(
                CORNERS.map((place, i) => [
                  place,
                  showValue(mean[i] ?? 0, { ...shown, precision: FINE }),
                ]),
              ),
            )
          }
        >
          Take these
        </Button>
        <Button
          variant="link"
          onClick={() => {
            setOn(false);
            setSettles(0);
            forget();
          }}
        >
          Disconnect
        </Button>
      </div>
    </div>
  );
}
