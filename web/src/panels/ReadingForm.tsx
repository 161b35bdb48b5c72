/** Taking a reading: its numbers in their places, repeats, how it was taken, conditions ticked. */
import { useEffect, useRef, useState, type ClipboardEvent } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useBench } from '../bench/bench';
import { api, saidAt, Problem, type NumberName, type Schemas } from '../lib/client';
import { pastedRows } from '../lib/csv';
import { LivePads } from './LivePads';
import { PinionGauge } from './PinionGauge';
import { useDictionary } from '../lib/vocabulary';
import { Notice } from '../ui/marks';

type Cells = Record<string, string>;
/** What is typed so far, by number: one row of cells a repeat. */
type Typed = Record<string, Cells[]>;

interface Draft {
  typed: Typed;
  zero: Record<string, string>;
  held: Record<string, boolean>;
  instrument: string;
  place: string;
  byEye: boolean;
  stage: '' | 'before' | 'after';
  note: string;
}

const EMPTY: Draft = {
  typed: {},
  zero: {},
  held: {},
  instrument: '',
  place: '',
  byEye: false,
  stage: '',
  note: '',
};

/** What is typed is kept on this device until it is taken, so that a reload loses nothing. */
function useKept(key: string): [Draft, (value: Draft) => void, () => void] {
  const [value, setValue] = useState<Draft>(() => {
    const kept = sessionStorage.getItem(key);
    return kept ? { ...EMPTY, ...(JSON.parse(kept) as Draft) } : EMPTY;
  });
  useEffect(() => sessionStorage.setItem(key, JSON.stringify(value)), [key, value]);
  return [value, setValue, () => sessionStorage.removeItem(key)];
}

/** A reading as it is taken: its kind, what is typed so far, and how it is sent. */
function useReading(kind: string, done: () => void) {
  const { bench, refresh } = useBench();
  const dictionary = useDictionary();
  const row = dictionary.reading(kind);
  const [draft, setDraft, forget] = useKept(`reading-${bench.id}-${kind}`);
  const names = (row?.numbers ?? []).filter((name) => bench.figures[name] !== undefined);
  const take = api.useMutation('post', '/api/cars/{car_id}/readings', {
    onSuccess: async () => {
      forget();
      await refresh();
      done();
    },
  });
  const send = (confirmed: boolean) =>
    take.mutate({
      params: { path: { car_id: bench.id } },
      body: {
        kind,
        repeats: Object.fromEntries(
          names
            .map((name) => [name, rowsOf(draft.typed[name], dictionary.places(name))] as const)
            .filter(([name, rows]) => !row?.optional.includes(name) || rows.flat().some(Boolean)),
        ),
        conditions: draft.held,
        zero: draft.zero,
        instrument: draft.instrument,
        place: draft.place,
        by_eye: draft.byEye,
        stage: draft.stage,
        note: draft.note,
        confirmed,
      },
    });
  const set = (part: Partial<Draft>) => {
    take.reset();
    setDraft({ ...draft, ...part });
  };
  const type = (name: NumberName, rows: Cells[]) =>
    set({ typed: { ...draft.typed, [name]: rows } });
  return { row, names, draft, set, type, send, problem: take.error, isPending: take.isPending };
}

export function ReadingForm({ kind, done }: { kind: string; done: () => void }) {
  const reading = useReading(kind, done);
  const { row, names, draft, set, type, send, problem } = reading;
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => form.current?.querySelector('input')?.focus(), []);
  if (!row) return null;
  const typedAny = Object.values(draft.typed).some((rows) =>
    rows.some((cells) => Object.values(cells).some((cell) => cell.trim())),
  );
  const loose =
    problem?.errors.filter((error) => !names.some((name) => name === error.number)) ?? [];
  return (
    <Form
      ref={form}
      className="reading-form"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        send(false);
      }}
    >
      <h2>{names.length ? `Read: ${row.label.toLowerCase()}` : row.label}</h2>
      <HowToRead row={row} names={names} />
      {kind === 'pads' && (
        <LivePads
          take={(loads) => {
            const rows = draft.typed.pad_mass ?? [{}];
            const empty = rows.findIndex((row) => !Object.values(row).some((cell) => cell.trim()));
            type('pad_mass', empty < 0 ? [...rows, loads] : rows.with(empty, loads));
          }}
        />
      )}
      {kind === 'pinion' && (
        <PinionGauge take={(name, degrees) => type(name, [{ car: degrees }])} />
      )}
      {names.map((name) => (
        <NumberCells
          key={name}
          kind={kind}
          name={name}
          rows={draft.typed[name] ?? [{}]}
          optional={row.optional.includes(name)}
          alone={names.length === 1}
          problem={problem}
          set={(rows) => type(name, rows)}
        />
      ))}
      {names.length > 0 && <HowTaken row={row} names={names} draft={draft} set={set} />}
      <Conditions row={row} held={draft.held} set={(held) => set({ held })} />
      <label htmlFor={`${kind}-note`}>Note</label>
      <input
        id={`${kind}-note`}
        className="text-input"
        value={draft.note}
        onChange={(event) => set({ note: event.target.value })}
      />
      {names.length > 0 && <UnmetConditions row={row} held={draft.held} />}
      {problem && (problem.errors.length === 0 || loose.length > 0) && (
        <Notice tone="draft">
          {loose.map((error) => error.detail).join(' ') || problem.detail}
        </Notice>
      )}
      <div className="form-acts">
        {problem?.asksToConfirm ? (
          <Button variant="dark" onClick={() => send(true)}>
            Take it anyway
          </Button>
        ) : (
          <Button type="submit" variant="dark" disabled={reading.isPending}>
            {names.length && (typedAny || !row.tick) ? 'Take the reading' : row.tick}
          </Button>
        )}
        <Button variant="link" onClick={done}>
          Cancel
        </Button>
      </div>
    </Form>
  );
}

type Row = Schemas['ReadingKindEntry'];

/** How it is taken, and what stays empty. */
function HowToRead({ row, names }: { row: Row; names: NumberName[] }) {
  const dictionary = useDictionary();
  const canStayEmpty = names.some(
    (one) => dictionary.places(one).length > 1 && !row.together.includes(one),
  );
  const atOnce = names.every((one) => row.at_once.includes(one));
  return (
    <p className="hint">
      {row.how}
      {canStayEmpty &&
        (atOnce
          ? ' What you do not read stays empty.'
          : ' What you do not read stays empty: it keeps what it was.')}
    </p>
  );
}

interface HeldProps {
  row: Row;
  held: Draft['held'];
}

function Conditions({ row, held, set }: HeldProps & { set: (held: Draft['held']) => void }) {
  const dictionary = useDictionary();
  if (row.conditions.length === 0) return null;
  return (
    <fieldset className="conditions">
      <legend>Conditions</legend>
      {row.conditions.map((one) => {
        const condition = dictionary.data.conditions.find((entry) => entry.id === one);
        return (
          <Form.Check
            key={one}
            id={`${row.id}-${one}`}
            label={
              <>
                {condition?.label} <small>{condition?.why}</small>
              </>
            }
            checked={held[one] ?? false}
            onChange={(event) => set({ ...held, [one]: event.target.checked })}
          />
        );
      })}
    </fieldset>
  );
}

function UnmetConditions({ row, held }: HeldProps) {
  const unmet = row.conditions.filter((one) => !held[one]);
  if (unmet.length === 0) return null;
  return (
    <Notice>
      {unmet.length === row.conditions.length
        ? 'No condition is ticked'
        : 'Not every condition is ticked'}
      : the reading will stand as doubtful.
    </Notice>
  );
}

function rowsOf(cells: Cells[] | undefined, places: string[]): string[][] {
  return (cells ?? [{}]).map((row) => places.map((place) => row[place] ?? ''));
}

const MOST_REPEATS = 12;

interface CellsProps {
  kind: string;
  name: NumberName;
  rows: Cells[];
  optional: boolean;
  /** The only number of its reading: its places alone are label enough. */
  alone: boolean;
  problem: Problem | null;
  set: (rows: Cells[]) => void;
}

/** One number at all its places, repeated as often as it was read. */
function NumberCells({ kind, name, rows, optional, alone, problem, set }: CellsProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(name);
  const places = dictionary.places(name).filter((one) => !bench.not_here[name]?.[one]);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const [unread, setUnread] = useState('');
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
      {rows.map((cells, turn) => (
        <fieldset key={turn} className={`settle settle-${places.length}`}>
          <legend>
            {entry.label}
            {rows.length > 1 && `, repeat ${turn + 1}`}
            {optional && turn === 0 && <small> if taken</small>}
            {entry.sign && turn === 0 && <small>, {entry.sign}</small>}
          </legend>
          {places.map((place) => {
            const said = saidAt(problem, name, turn ? `${place} ${turn + 1}` : place);
            const id = `${kind}-${name}-${turn}-${place}`;
            const label =
              place === 'car' ? entry.label : alone ? place : `${entry.label}, ${place}`;
            return (
              <div key={place} className={`cell${said ? ' has-problem' : ''}`}>
                <label htmlFor={id}>
                  {alone || place === 'car' ? (
                    label
                  ) : (
                    <>
                      <span className="visually-hidden">{entry.label}, </span>
                      {place}
                    </>
                  )}
                </label>
                <span className="given-box">
                  <input
                    id={id}
                    inputMode="decimal"
                    autoComplete="off"
                    value={cells[place] ?? ''}
                    aria-invalid={said !== undefined}
                    aria-describedby={`${id}-said`}
                    onChange={(event) =>
                      set(
                        rows.map((one, n) =>
                          n === turn ? { ...one, [place]: event.target.value } : one,
                        ),
                      )
                    }
                  />
                  <small>{shown.symbol}</small>
                </span>
                <span id={`${id}-said`} className="field-said" role={said ? 'alert' : undefined}>
                  {said}
                </span>
              </div>
            );
          })}
        </fieldset>
      ))}
      <p className="settle-acts">
        <button
          type="button"
          className="quiet"
          disabled={rows.length >= MOST_REPEATS}
          onClick={() => set([...rows, {}])}
        >
          Add a repeat{!alone && <span className="visually-hidden"> of {entry.label}</span>}
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

interface HowProps {
  row: Schemas['ReadingKindEntry'];
  names: NumberName[];
  draft: Draft;
  set: (part: Partial<Draft>) => void;
}

/** With what, where and how it was taken; the instrument's own zero is taken off. */
function HowTaken({ row, names, draft, set }: HowProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const id = (part: string) => `${row.id}-${part}`;
  const zeroable = names.filter((name) =>
    ['height', 'dimension', 'fine_dimension', 'mass', 'angle'].includes(
      dictionary.entry(name).quantity,
    ),
  );
  return (
    <details className="how-taken">
      <summary>How it was taken</summary>
      <div className="cells">
        <div className="cell">
          <label htmlFor={id('instrument')}>Instrument</label>
          <input
            id={id('instrument')}
            className="text-input"
            list={id('tools')}
            value={draft.instrument}
            onChange={(event) => set({ instrument: event.target.value })}
          />
          <datalist id={id('tools')}>
            {row.tools.map((tool) => (
              <option key={tool} value={tool} />
            ))}
          </datalist>
        </div>
        <div className="cell">
          <label htmlFor={id('place')}>Where on the car</label>
          <input
            id={id('place')}
            className="text-input"
            value={draft.place}
            onChange={(event) => set({ place: event.target.value })}
          />
        </div>
        {zeroable.map((name) => {
          const entry = dictionary.entry(name);
          return (
            <div className="cell" key={name}>
              <label htmlFor={id(`zero-${name}`)}>
                {zeroable.length > 1
                  ? `Zero of ${entry.label.toLowerCase()}`
                  : 'Zero or block height'}
              </label>
              <span className="given-box">
                <input
                  id={id(`zero-${name}`)}
                  inputMode="decimal"
                  placeholder="0"
                  value={draft.zero[name] ?? ''}
                  onChange={(event) => set({ zero: { ...draft.zero, [name]: event.target.value } })}
                />
                <small>{dictionary.shown(entry.quantity, bench.profile).symbol}</small>
              </span>
            </div>
          );
        })}
        {row.stages && (
          <div className="cell">
            <label htmlFor={id('stage')}>Stage</label>
            <select
              id={id('stage')}
              value={draft.stage}
              onChange={(event) => set({ stage: event.target.value as Draft['stage'] })}
            >
              <option value="">as it stands now</option>
              <option value="before">before the work</option>
              <option value="after">after the work</option>
            </select>
          </div>
        )}
      </div>
      <Form.Check
        id={id('eye')}
        label="Taken by eye: it stands as doubtful"
        checked={draft.byEye}
        onChange={(event) => set({ byEye: event.target.checked })}
      />
    </details>
  );
}
