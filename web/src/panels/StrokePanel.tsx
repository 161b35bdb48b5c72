/** The dampers' stroke: where each stands between closed and open, at full bump, and in the launch. */
import { useBench, afterAt, valueAt } from '../bench/bench';
import type { NumberName } from '../lib/client';
import { showValue } from '../lib/format';
import { useDictionary } from '../lib/vocabulary';

const AXLES = ['front', 'rear'] as const;
const [WIDE, EDGE, ROW] = [600, 60, 96];

interface Mark {
  words: string;
  at: number;
  drafted: boolean;
}

export function StrokePanel() {
  const { bench } = useBench();
  const read = (name: NumberName, at: number) => valueAt(bench, name, at);
  const after = (name: NumberName, at: number) => afterAt(bench, name, at);
  const rows = AXLES.flatMap((axle, i) => {
    const stroke = read('damper_stroke', i);
    const showing = read('shaft_showing', i);
    if (stroke === undefined || showing === undefined) return [];
    const both = (words: string, of: (get: typeof read) => number | undefined): Mark[] => {
      const [now, then] = [of(read), of((name, at) => after(name, at) ?? read(name, at))];
      if (now === undefined) return [];
      const moved = then !== undefined && Math.abs(then - now) > 1e-4;
      return [
        { words, at: now, drafted: false },
        ...(moved ? [{ words, at: then, drafted: true }] : []),
      ];
    };
    const marks = [
      ...both('full bump', (get) => get('stroke_left_closed', i)),
      ...both('now', (get) => get('shaft_showing', i)),
      ...(axle === 'rear' ? both('launch', (get) => get('shaft_in_launch', 0)) : []),
    ];
    return [{ axle, stroke, marks }];
  });
  if (rows.length === 0)
    return (
      <p className="hint">
        The dampers’ stroke is drawn here once their stroke is given and the shaft showing was read.
      </p>
    );
  return (
    <section className="stroke-panel" aria-label="Damper stroke">
      <h2>Damper stroke</h2>
      <p className="hint">
        Shaft showing, from fully closed to fully open. A rear that separates starts nearly closed,
        one that squats nearer the middle. Set it with the perch, ride height with the mount holes.
      </p>
      {rows.map((row) => (
        <Stroke key={row.axle} {...row} />
      ))}
    </section>
  );
}

function Stroke({ axle, stroke, marks }: { axle: string; stroke: number; marks: Mark[] }) {
  const { bench } = useBench();
  const shown = useDictionary().shown('height', bench.profile);
  const x = (at: number) => EDGE + ((WIDE - 2 * EDGE) * at) / stroke;
  const past = marks.filter((mark) => mark.at < 0 || mark.at > stroke);
  const say = (mark: Mark) => `${mark.words} ${showValue(mark.at, shown)}`;
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDE} ${ROW}`}
        role="img"
        aria-label={`${axle}: ${marks.map(say).join(', ')} of ${showValue(stroke, shown)} ${shown.symbol}`}
      >
        <text x="0" y="54" className="axle-name">
          {axle}
        </text>
        <rect className="body" x={x(0)} y="38" width={x(stroke) - x(0)} height="24" />
        <text x={x(0)} y="80" className="end">
          closed
        </text>
        <text x={x(stroke)} y="80" textAnchor="end" className="end">
          open {showValue(stroke, shown)} {shown.symbol}
        </text>
        {marks.map((mark, i) => {
          const at = Math.max(8, Math.min(WIDE - 8, x(mark.at)));
          return (
            <g key={mark.words + String(mark.drafted)} className={mark.drafted ? 'is-drafted' : ''}>
              <path className="mark" d={`M${at} 32V68`} />
              <text x={at} y={i % 2 ? 14 : 27} textAnchor="middle">
                {say(mark)}
              </text>
            </g>
          );
        })}
      </svg>
      {past.length > 0 && (
        <figcaption className="word-doubtful">
          {past
            .map((mark) =>
              mark.at < 0
                ? `${mark.words}: bottoms by ${showValue(-mark.at, shown)} ${shown.symbol}`
                : `${mark.words}: tops out by ${showValue(mark.at - stroke, shown)} ${shown.symbol}`,
            )
            .join('; ')}
          .
        </figcaption>
      )}
    </figure>
  );
}
