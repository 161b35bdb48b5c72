/** How steadily the tyres are loaded over a rough road, click by click: drawn as it is worked, stopped at will. */
import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useBench } from '../bench/bench';
import { ask, client, Problem } from '../lib/client';
import type { Shown } from '../lib/format';
import { useDictionary } from '../lib/vocabulary';
import { Pick } from '../ui/fields';
import { Notice } from '../ui/marks';
import { Plot } from '../ui/Plot';

type Setting = 'compression_clicks' | 'rebound_clicks';
type Axle = 'front' | 'rear';

const SETTINGS = [
  ['rebound_clicks', 'Rebound'],
  ['compression_clicks', 'Compression'],
] as const;
const AXLES = [
  ['front', 'Front'],
  ['rear', 'Rear'],
] as const;
const CLICKS: Shown = { symbol: '', factor: 1, offset: 0, precision: 1 };
/** So many clicks are tried, evenly over what the knob has. */
const MOST = 12;

/** Clicks tried one after another, each drawn as it is worked, until told to stop. */
function useContact(setting: Setting, axle: Axle, clicks: number[]) {
  const { bench } = useBench();
  const [points, setPoints] = useState<[number, number][]>([]);
  const [running, setRunning] = useState(0);
  const [problem, setProblem] = useState('');
  const halt = useRef<AbortController | null>(null);
  useEffect(() => () => halt.current?.abort(), []);
  const forget = () => {
    halt.current?.abort();
    setPoints([]);
    setProblem('');
  };
  const run = async () => {
    const mine = new AbortController();
    halt.current = mine;
    setPoints([]);
    setProblem('');
    for (const [i, click] of clicks.entries()) {
      setRunning(i + 1);
      try {
        const found = await ask(
          client.GET('/api/cars/{car_id}/contact', {
            params: { path: { car_id: bench.id }, query: { setting, axle, click } },
            signal: mine.signal,
          }),
        );
        setPoints((old) => [...old, [found.click, found.variation]]);
      } catch (refusal) {
        if (!mine.signal.aborted)
          setProblem(refusal instanceof Problem ? refusal.detail : String(refusal));
        break;
      }
    }
    setRunning(0);
  };
  return { points, running, problem, forget, run, stop: () => halt.current?.abort() };
}

export function ContactPanel() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const [setting, setSetting] = useState<Setting>('rebound_clicks');
  const [axle, setAxle] = useState<Axle>('front');
  const adjuster = bench.adjusters[setting];
  const place = axle === 'front' ? 'LF' : 'LR';
  const [low = 0, high = 0] = adjuster?.at[place] ?? [adjuster?.lowest, adjuster?.highest];
  const clicks = clicksOf(low, high);
  const { points, running, problem, forget, run, stop } = useContact(setting, axle, clicks);
  if (!adjuster) return null;
  const here = bench.setup[setting]?.[dictionary.places(setting).indexOf(place)];
  const best = points.reduce<[number, number] | null>(
    (least, one) => (!least || one[1] < least[1] ? one : least),
    null,
  );
  return (
    <section className="chart-panel contact" aria-label="Contact load over clicks">
      <h3>Contact load over clicks</h3>
      <p className="hint">
        How much the tyre load varies over a rough road (class B), both sides of the axle at each
        click: less is steadier grip. The setup on the car, without the slip.
      </p>
      <div className="in-time-asks">
        <Pick
          legend="Clicks of"
          options={SETTINGS}
          value={setting}
          set={(one) => {
            forget();
            setSetting(one);
          }}
        />
        <Pick
          legend="Axle"
          options={AXLES}
          value={axle}
          set={(one) => {
            forget();
            setAxle(one);
          }}
        />
        {running > 0 ? (
          <Button variant="outline-dark" onClick={stop}>
            {running} of {clicks.length} … Cancel
          </Button>
        ) : (
          <Button variant="outline-dark" onClick={() => void run()}>
            Run {clicks.length} clicks
          </Button>
        )}
      </div>
      {problem && <Notice tone="draft">{problem}</Notice>}
      {best && running === 0 && (
        <p className="chart-note">Steadiest of those tried: click {best[0]}.</p>
      )}
      <Plot
        label="Contact load over clicks"
        x={{ name: 'Clicks', shown: CLICKS, here: typeof here === 'number' ? here : null }}
        y={{
          name: 'Load variation',
          shown: { ...dictionary.shown('share', bench.profile), precision: 0.01 },
        }}
        lines={[{ label: '', drafted: false, order: 0, points }]}
      />
    </section>
  );
}

function clicksOf(low: number, high: number): number[] {
  const by = Math.max(1, Math.ceil((high - low) / (MOST - 1)));
  return Array.from({ length: Math.floor((high - low) / by) + 1 }, (_, i) => low + i * by);
}
