/** The bolts plotted on blocks: both sides typed as measured, compared, and saved as the car's own. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Table from 'react-bootstrap/Table';
import { useBench, useSaved } from '../bench/bench';
import { api, saidAt, type Problem, type Schemas } from '../lib/client';
import { showValue } from '../lib/format';
import { useMay } from '../lib/me';
import { PLACE_WORDS, useDictionary } from '../lib/vocabulary';
import { Notice } from '../ui/marks';
import { WideTable } from '../ui/WideTable';

const BOLTS = ['upper chassis', 'upper axle', 'lower chassis', 'lower axle'] as const;
const SIDES = ['left', 'right'] as const;
type Side = (typeof SIDES)[number];
type Cells = Record<Side, [ahead: string, above: string][]>;

const empty = (): [string, string][] => BOLTS.map(() => ['', '']);

export function PlotSheet() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const may = useMay('give');
  const [cells, setCells] = useState<Cells>({ left: empty(), right: empty() });
  const [block, setBlock] = useState('0');
  const look = api.useMutation('post', '/api/cars/{car_id}/plot-sheet');
  const problem = look.error;
  const unit = dictionary.shown('fine_dimension', bench.profile).symbol;
  if (!bench.given.bolt_x || !may) return null;
  const put = (side: Side, row: number, at: 0 | 1, text: string) => {
    look.reset();
    setCells({
      ...cells,
      [side]: cells[side].map((pair, i) =>
        i === row ? (at ? [pair[0], text] : [text, pair[1]]) : pair,
      ),
    });
  };
  return (
    <details className="plot-sheet">
      <summary>Plot the bolts on blocks</summary>
      <p className="hint">
        At ride height on blocks, all four bolt centres of a side: ahead of the axle’s centre line,
        and above the floor. The right side may stay empty.
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          look.mutate({
            params: { path: { car_id: bench.id } },
            body: { block, left: cells.left, right: cells.right },
          });
        }}
      >
        <div className="cell">
          <label htmlFor="plot-block">The car stands on blocks of</label>
          <span className="given-box">
            <input
              id="plot-block"
              value={block}
              autoComplete="off"
              aria-invalid={saidAt(problem, 'block') !== undefined}
              onChange={(event) => {
                look.reset();
                setBlock(event.target.value);
              }}
            />
            <small>{unit}</small>
          </span>
        </div>
        <BoltTable cells={cells} problem={problem} put={put} />
        <Button type="submit" variant="outline-dark" disabled={look.isPending}>
          Check the bolts
        </Button>
      </form>
      {problem && <Notice tone="draft">{problem.detail}</Notice>}
      {look.data && (
        <Compared
          found={look.data}
          done={() => {
            look.reset();
          }}
        />
      )}
    </details>
  );
}

interface TableProps {
  cells: Cells;
  problem: Problem | null;
  put: (side: Side, row: number, at: 0 | 1, text: string) => void;
}

function BoltTable({ cells, problem, put }: TableProps) {
  const { bench } = useBench();
  const unit = useDictionary().shown('fine_dimension', bench.profile).symbol;
  return (
    <WideTable label="Bolts as measured">
      <Table size="sm">
        <thead>
          <tr>
            <th scope="col">Bolt</th>
            {SIDES.flatMap((side) =>
              ['ahead', 'above the floor'].map((words) => (
                <th key={side + words} scope="col">
                  {side}, {words} <small>{unit}</small>
                </th>
              )),
            )}
          </tr>
        </thead>
        <tbody>
          {BOLTS.map((bolt, row) => (
            <tr key={bolt}>
              <th scope="row">{PLACE_WORDS[bolt]}</th>
              {SIDES.flatMap((side) =>
                ([0, 1] as const).map((at) => (
                  <td key={`${side}${at}`}>
                    <input
                      inputMode="text"
                      autoComplete="off"
                      aria-label={`${PLACE_WORDS[bolt] ?? bolt}, ${side}, ${at ? 'above the floor' : 'ahead'}`}
                      aria-invalid={saidAt(problem, `${side}-${row}-${at}`) !== undefined}
                      value={cells[side][row]?.[at] ?? ''}
                      onChange={(event) => put(side, row, at, event.target.value)}
                    />
                  </td>
                )),
              )}
            </tr>
          ))}
        </tbody>
      </Table>
    </WideTable>
  );
}

function Compared({ found, done }: { found: Schemas['PlotSheetView']; done: () => void }) {
  const { bench } = useBench();
  const shown = useDictionary().shown('fine_dimension', bench.profile);
  const save = api.useMutation('patch', '/api/cars/{car_id}/given', useSaved(done));
  const mm = (value: number) => `${Math.round(value * 1e5) / 100} mm`;
  const column = (at: 0 | 1) => found.bolts.map((bolt) => mm(bolt[at] ?? 0));
  return (
    <div className="plot-found" role="status">
      <ul className="lines">
        {BOLTS.map((bolt, i) => {
          const [ahead = 0, up = 0] = found.bolts[i] ?? [];
          const off = found.apart?.[i];
          return (
            <li key={bolt}>
              <span>{PLACE_WORDS[bolt]}</span>
              <span>
                {showValue(ahead, shown)} ahead, {showValue(up, shown)} up{' '}
                <small>{shown.symbol}</small>
                {off && (
                  <small>
                    {' '}
                    (right {showValue(off[0] ?? 0, shown)}, {showValue(off[1] ?? 0, shown)})
                  </small>
                )}
              </span>
            </li>
          );
        })}
      </ul>
      {found.doubts.map((doubt) => (
        <Notice key={doubt}>{doubt}</Notice>
      ))}
      {found.brackets.length > 0 && (
        <p className="hint">
          {found.brackets.map((one) => PLACE_WORDS[one]).join('; ')}: the hole of its bracket goes
          before what is measured here. Correct the bracket’s holes in the inventory.
        </p>
      )}
      {save.error && <Notice tone="draft">{save.error.detail}</Notice>}
      <Button
        variant="dark"
        disabled={save.isPending}
        onClick={() =>
          save.mutate({
            params: { path: { car_id: bench.id } },
            body: { values: { bolt_x: column(0), bolt_z: column(1) }, confirmed: true },
          })
        }
      >
        Save as measured
      </Button>
    </div>
  );
}
