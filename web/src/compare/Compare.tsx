/** Two revisions side by side: changed settings, calculated figures that changed, what was not equal. */
import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import Table from 'react-bootstrap/Table';
import type { Schemas } from '../lib/client';
import { compareQuery } from '../lib/queries';
import { useBench } from '../bench/bench';
import { Empty, Failed, Moment, Waiting } from '../ui/states';
import { Notice } from '../ui/marks';
import { useWay, type Value } from '../bench/ways';
import { showMove, showValue, type Shown } from '../lib/format';
import { useDictionary, whereWords } from '../lib/vocabulary';

export function Compare() {
  const { bench } = useBench();
  const [query, setQuery] = useSearchParams();
  const right = Number(query.get('right') ?? bench.revision);
  const left = Number(query.get('left') ?? Math.max(1, bench.revision - 1));
  const found = useQuery(compareQuery(bench.id, left, right));
  const choose = (side: 'left' | 'right', value: string) =>
    setQuery({ left: String(left), right: String(right), [side]: value });
  return (
    <article className="compare">
      <div className="sheet-head">
        <h1>Compare</h1>
        <p>Two revisions of {bench.name}, each with the readings taken by its own time.</p>
      </div>
      <div className="compare-pick">
        <RevisionPick
          label="From"
          value={left}
          newest={bench.revision}
          one={found.data?.left}
          set={(value) => choose('left', value)}
        />
        <RevisionPick
          label="to"
          value={right}
          newest={bench.revision}
          one={found.data?.right}
          set={(value) => choose('right', value)}
        />
      </div>
      {found.isPending && <Waiting what="Calculating both" />}
      {found.isError && <Failed error={found.error} />}
      {found.data && <Difference found={found.data} />}
    </article>
  );
}

/** Revisions in the list, the newest; an older one is reached by its number. */
const LISTED = 200;

interface PickProps {
  label: string;
  value: number;
  newest: number;
  one: Schemas['RevisionView'] | undefined;
  set: (value: string) => void;
}

function RevisionPick({ label, value, newest, one, set }: PickProps) {
  const first = Math.max(1, newest - LISTED + 1);
  const listed = Array.from({ length: newest - first + 1 }, (_, i) => first + i);
  if (value < first) listed.unshift(value);
  return (
    <div className="pick">
      <label htmlFor={`pick-${label}`}>{label}</label>
      <select id={`pick-${label}`} value={value} onChange={(event) => set(event.target.value)}>
        {listed.map((number) => (
          <option key={number} value={number}>
            revision {number}
          </option>
        ))}
      </select>
      {first > 1 && (
        <input
          type="number"
          aria-label={`Number of the revision, ${label}`}
          min={1}
          max={newest}
          value={value}
          onChange={(event) => event.target.value && set(event.target.value)}
        />
      )}
      {one?.number === value && (
        <p>
          <Moment at={one.at} by={one.by} />
          {one.why && <br />}
          {one.why}
        </p>
      )}
    </div>
  );
}

function Difference({ found }: { found: Schemas['CompareView'] }) {
  const dictionary = useDictionary();
  const { bench, explain } = useBench();
  if (found.set_otherwise.length === 0 && found.moved.length === 0)
    return (
      <>
        <Empty title="Nothing differs.">These two are set alike and give the same figures.</Empty>
        <Corrected sentences={found.corrected} />
      </>
    );
  const rows = found.moved.filter((row) => {
    const shown = dictionary.shown(dictionary.entry(row.name).quantity, bench.profile);
    return (
      row.before === null ||
      row.after === null ||
      showValue(row.before, shown) !== showValue(row.after, shown)
    );
  });
  return (
    <>
      {found.unequal.map((sentence) => (
        <Notice key={sentence}>{sentence}</Notice>
      ))}
      <Corrected sentences={found.corrected} />
      <h2>Changed settings</h2>
      {found.set_otherwise.length === 0 && <p className="hint">None: they were set alike.</p>}
      <Table size="sm" className="compare-table">
        <Head found={found} last="unit" />
        <tbody>
          {found.set_otherwise.map((line) => (
            <SetRow key={line.name + line.place} line={line} />
          ))}
        </tbody>
      </Table>
      <h2>Calculated figures that changed</h2>
      {rows.length === 0 && <p className="hint">No significant change.</p>}
      <Table size="sm" className="compare-table">
        <Head found={found} last="change" />
        <tbody>
          {rows.map((row) => {
            const entry = dictionary.entry(row.name);
            const shown = dictionary.shown(entry.quantity, bench.profile);
            const move =
              row.before === null || row.after === null
                ? null
                : showMove(row.before, row.after, shown);
            return (
              <tr key={row.name + row.place}>
                <th scope="row">
                  <button
                    type="button"
                    className="link"
                    onClick={() => explain(row.name, row.place)}
                  >
                    {whereWords(entry.label, [row.place])}
                  </button>
                </th>
                <td>{move?.before ?? oneSide(row.before, shown)}</td>
                <td>{move?.after ?? oneSide(row.after, shown)}</td>
                <td>
                  {move && <b>{move.change}</b>} <small>{shown.symbol}</small>
                </td>
              </tr>
            );
          })}
        </tbody>
      </Table>
    </>
  );
}

/** What was learned of the car since: a figure may then be another one than the one it was set by. */
function Corrected({ sentences }: { sentences: string[] }) {
  if (sentences.length === 0) return null;
  return (
    <details className="corrected-since">
      <summary>
        Both are calculated with what is known of the car now; corrected since: {sentences.length}
      </summary>
      <ul>
        {sentences.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
    </details>
  );
}

function Head({ found, last }: { found: Schemas['CompareView']; last: string }) {
  return (
    <thead>
      <tr>
        <th scope="col">Number</th>
        <th scope="col">rev. {found.left.number}</th>
        <th scope="col">rev. {found.right.number}</th>
        <th scope="col">{last}</th>
      </tr>
    </thead>
  );
}

function SetRow({ line }: { line: Schemas['LineView'] }) {
  const dictionary = useDictionary();
  const way = useWay(line.name, line.place);
  const text = (value: unknown) => way.show(value as Value);
  return (
    <tr>
      <th scope="row">{whereWords(dictionary.entry(line.name).label, [line.place])}</th>
      <td>{text(line.old)}</td>
      <td>
        <b>{text(line.new)}</b>
      </td>
      <td>
        <small>{way.unit}</small>
      </td>
    </tr>
  );
}

/** A figure that only one of the two has. */
function oneSide(value: number | null, shown: Shown): string {
  return value === null ? 'missing' : showValue(value, shown);
}
