/** One number of a reading at all its places, repeated as often as it was read. */
import { useState, type ClipboardEvent } from 'react';
import { useBench } from '../bench/bench';
import { saidAt, type NumberName, type Schemas } from '../lib/client';
import { pastedRows } from '../lib/csv';
import { useDictionary } from '../lib/vocabulary';
import { Cell } from '../ui/fields';
import { useField, type ApiForm } from '../ui/form';
import { Notice } from '../ui/marks';
import type { Cells, ReadingDraft } from './readingDraft';

const MOST_REPEATS = 12;

interface Props {
  of: ApiForm<ReadingDraft>;
  row: Schemas['ReadingKindEntry'];
  name: NumberName;
  /** The only number of its reading: its places alone are label enough. */
  isAlone: boolean;
}

export function NumberCells(props: Props) {
  const { of, row, name, isAlone } = props;
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(name);
  const places = dictionary.places(name).filter((one) => !bench.not_here[name]?.[one]);
  const [unread, setUnread] = useState('');
  const rows = of.values.watch(`typed.${name}`) ?? [{}];
  const set = (repeats: Cells[]) => {
    of.values.setValue(`typed.${name}`, repeats);
    of.changed();
  };
  /** Rows copied from a spreadsheet fill the fields, a repeat a row. */
  const paste = (event: ClipboardEvent) => {
    const found = pastedRows(event.clipboardData.getData('text'), places);
    if (found === null) return;
    event.preventDefault();
    setUnread(typeof found === 'string' ? found : '');
    if (typeof found !== 'string' && found.length > 0) set(found.slice(0, MOST_REPEATS));
  };
  return (
    <div className="reading-number" onPaste={paste}>
      {unread && <Notice tone="draft">{unread}</Notice>}
      {rows.map((_, turn) => (
        <fieldset key={turn} className={`settle settle-${places.length}`}>
          <legend>
            {entry.label}
            {rows.length > 1 && `, repeat ${turn + 1}`}
            {row.optional.includes(name) && turn === 0 && <small> if taken</small>}
            {entry.sign && turn === 0 && <small>, {entry.sign}</small>}
          </legend>
          {places.map((place) => (
            <ReadingCell key={place} {...props} turn={turn} place={place} />
          ))}
        </fieldset>
      ))}
      <p className="settle-acts">
        <button
          type="button"
          className="quiet"
          disabled={rows.length >= MOST_REPEATS}
          onClick={() => set([...rows, {}])}
        >
          Add a repeat{!isAlone && <span className="visually-hidden"> of {entry.label}</span>}
        </button>
        {rows.length > 1 && (
          <button type="button" className="quiet" onClick={() => set(rows.slice(0, -1))}>
            Remove last repeat
          </button>
        )}
      </p>
    </div>
  );
}

interface CellProps extends Props {
  turn: number;
  place: string;
}

/** One place in one repeat. */
function ReadingCell({ of, row, name, isAlone, turn, place }: CellProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(name);
  const here = turn ? `${place} ${turn + 1}` : place;
  useField(of, name, here);
  const said = saidAt(of.problem, name, here);
  const id = `${row.id}-${name}-${turn}-${place}`;
  const before = !isAlone && place !== 'car' && (
    <span className="visually-hidden">{entry.label}, </span>
  );
  return (
    <Cell
      id={id}
      said={said}
      label={
        <>
          {before}
          {place === 'car' ? entry.label : place}
        </>
      }
    >
      <span className="given-box">
        <input
          id={id}
          inputMode="decimal"
          autoComplete="off"
          aria-invalid={said !== undefined}
          aria-describedby={`${id}-said`}
          {...of.values.register(`typed.${name}.${turn}.${place}`, { onChange: of.changed })}
        />
        <small>{dictionary.shown(entry.quantity, bench.profile).symbol}</small>
      </span>
    </Cell>
  );
}
