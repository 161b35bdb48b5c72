/** Taking a reading: its numbers in their places, repeats, how it was taken, conditions ticked. */
import { useEffect } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useBench } from '../bench/bench';
import { api, type NumberName, type Schemas } from '../lib/client';
import { LivePads } from './LivePads';
import { PinionGauge } from './PinionGauge';
import { HowTaken } from './HowTaken';
import { NumberCells } from './NumberCells';
import { EMPTY, rowsOf, typedAny, type Cells, type ReadingDraft } from './readingDraft';
import { useDictionary } from '../lib/vocabulary';
import { OtherProblems, useApiForm, useSheet, type ApiForm } from '../ui/form';
import { Notice } from '../ui/marks';

/** What was typed of a reading that was not taken yet: kept on this device, so that a reload loses nothing. */
function kept(key: string): ReadingDraft {
  const text = sessionStorage.getItem(key);
  return text ? { ...EMPTY, ...(JSON.parse(text) as ReadingDraft) } : EMPTY;
}

/** A reading as it is taken: what is typed so far, kept until it is sent. */
function useReading(kind: string, done: () => void) {
  const { bench, refresh } = useBench();
  const dictionary = useDictionary();
  const row = dictionary.reading(kind);
  const key = `reading-${bench.id}-${kind}`;
  const names = (row?.numbers ?? []).filter((name) => bench.figures[name] !== undefined);
  const take = api.useMutation('post', '/api/cars/{car_id}/readings', {
    onSuccess: async () => {
      sessionStorage.removeItem(key);
      await refresh();
      done();
    },
  });
  const form = useApiForm<ReadingDraft>({
    id: kind,
    defaults: kept(key),
    save: take,
    send: ({ typed, held, byEye, ...rest }, confirmed) =>
      take.mutate({
        params: { path: { car_id: bench.id } },
        body: {
          ...rest,
          kind,
          repeats: Object.fromEntries(
            names
              .map((name) => [name, rowsOf(typed[name], dictionary.places(name))] as const)
              .filter(([name, rows]) => !row?.optional.includes(name) || rows.flat().some(Boolean)),
          ),
          conditions: held,
          by_eye: byEye,
          confirmed,
        },
      }),
  });
  const { subscribe } = form.values;
  useEffect(
    () =>
      subscribe({
        formState: { values: true },
        callback: ({ values }) => sessionStorage.setItem(key, JSON.stringify(values)),
      }),
    [subscribe, key],
  );
  return { row, names, form };
}

export function ReadingForm({ kind, done }: { kind: string; done: () => void }) {
  const { row, names, form } = useReading(kind, done);
  const sheet = useSheet(form);
  if (!row) return null;
  const isTyped = typedAny(form.values.watch('typed'));
  return (
    <Form
      ref={sheet}
      className="reading-form"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        form.send(false);
      }}
    >
      <h2>{names.length ? `Read: ${row.label.toLowerCase()}` : row.label}</h2>
      <HowToRead row={row} names={names} />
      <Instruments kind={kind} form={form} />
      {names.map((name) => (
        <NumberCells key={name} of={form} row={row} name={name} isAlone={names.length === 1} />
      ))}
      {names.length > 0 && <HowTaken of={form} row={row} names={names} />}
      <Conditions of={form} row={row} />
      <label htmlFor={`${kind}-note`}>Note</label>
      <input
        id={`${kind}-note`}
        className="text-input"
        {...form.values.register('note', { onChange: form.changed })}
      />
      {names.length > 0 && <UnmetConditions of={form} row={row} />}
      <OtherProblems of={form} />
      <div className="form-acts">
        {form.problem?.asksToConfirm ? (
          <Button variant="dark" onClick={() => form.send(true)}>
            Take it anyway
          </Button>
        ) : (
          <Button type="submit" variant="dark" disabled={form.isPending}>
            {names.length && (isTyped || !row.tick) ? 'Take the reading' : row.tick}
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

/** What can be read from an instrument, into the fields. */
function Instruments({ kind, form }: { kind: string; form: ApiForm<ReadingDraft> }) {
  const put = (name: string, rows: Cells[]) => {
    form.values.setValue(`typed.${name}`, rows);
    form.changed();
  };
  if (kind === 'pads')
    return (
      <LivePads
        take={(loads) => {
          const rows = form.values.getValues('typed.pad_mass') ?? [{}];
          const empty = rows.findIndex((row) => !typedAny({ pad_mass: [row] }));
          put('pad_mass', empty < 0 ? [...rows, loads] : rows.with(empty, loads));
        }}
      />
    );
  if (kind === 'pinion')
    return <PinionGauge take={(name, degrees) => put(name, [{ car: degrees }])} />;
  return null;
}

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
  of: ApiForm<ReadingDraft>;
  row: Row;
}

function Conditions({ of, row }: HeldProps) {
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
            {...of.values.register(`held.${one}`, { onChange: of.changed })}
          />
        );
      })}
    </fieldset>
  );
}

function UnmetConditions({ of, row }: HeldProps) {
  const held = of.values.watch('held');
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
