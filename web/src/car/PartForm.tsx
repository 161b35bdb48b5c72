/** The form of a part, made from the declaration of its kind: fields in their units, tables, groups. */
import { Fragment, useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useForm, type UseFormReturn } from 'react-hook-form';
import { useBench, useSaved } from '../bench/bench';
import { csvOf } from '../lib/csv';
import { api, saidAt, Problem, type Schemas } from '../lib/client';
import { showPrecise } from '../lib/format';
import { useDictionary } from '../lib/vocabulary';
import { Notice } from '../ui/marks';
import { TableField } from '../ui/TableField';

type Kind = Schemas['PartKindEntry'];
type FieldEntry = Schemas['PartFieldEntry'];

export interface Editing {
  /** The code of the part that is corrected; empty for a new one. */
  code: string;
  /** The part whose values stand in the form: the one corrected, or the one copied. */
  from: Schemas['PartView'] | null;
}

type PartValue = NonNullable<Schemas['PartIn']['values']>[string];

interface Values {
  code: string;
  fits: 'front' | 'rear' | 'both';
  note: string;
  [field: string]: unknown;
}

/** Field ids hold dots, which a form reads as paths. */
const keyOf = (field: FieldEntry) => field.id.replace('.', '__');

export function PartForm({
  kind,
  editing,
  done,
}: {
  kind: Kind;
  editing: Editing;
  done: () => void;
}) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const typedAs = (field: FieldEntry, value: unknown): unknown => {
    if (field.kind === 'table')
      return ((value as number[][] | null) ?? []).map((row) =>
        row.map((cell, i) =>
          showPrecise(cell, dictionary.shown(field.columns[i]?.quantity ?? '', bench.profile)),
        ),
      );
    if (field.kind === 'flag') return value === true;
    // a choice begins at its first option, what it shows is what is sent; in a group nothing is given yet
    if (field.kind === 'choice' && !field.group) return value ?? field.options[0]?.value ?? '';
    if (typeof value === 'number')
      return showPrecise(value, dictionary.shown(field.quantity, bench.profile));
    return value ?? '';
  };
  const form = useForm<Values>({
    defaultValues: {
      code: editing.code,
      fits: editing.from?.fits ?? 'both',
      note: editing.code ? (editing.from?.note ?? '') : '',
      ...Object.fromEntries(
        kind.fields.map((field) => [keyOf(field), typedAs(field, editing.from?.values[field.id])]),
      ),
    },
  });
  const save = api.useMutation('post', '/api/cars/{car_id}/parts', useSaved(done));
  const send = (confirmed: boolean) =>
    form.handleSubmit((values) =>
      save.mutate({
        params: { path: { car_id: bench.id } },
        body: {
          kind: kind.name,
          code: values.code,
          fits: values.fits,
          note: values.note,
          instead_of: editing.code || null,
          values: Object.fromEntries(
            kind.fields.map((field) => [field.id, values[keyOf(field)] as PartValue]),
          ),
          confirmed,
        },
      }),
    )();
  const first = useRef<HTMLFormElement>(null);
  useEffect(() => first.current?.querySelector('input')?.focus(), []);
  const problem = save.error;
  const atFields = problem?.errors.some((one) => knows(kind, one.number)) ?? false;
  const id = (part: string) => `${kind.name}-${part}`;
  const groups = [...new Set(kind.fields.map((field) => field.group))];
  return (
    <form
      ref={first}
      className="inline-form part-form"
      noValidate
      aria-label={editing.code ? `Edit ${editing.code}` : `Add ${kind.label.toLowerCase()}`}
      onSubmit={(event) => {
        event.preventDefault();
        void send(false);
      }}
    >
      <h3>{editing.code ? `Edit ${editing.code}` : `Add ${kind.label.toLowerCase()}`}</h3>
      <div className="cells">
        <Labelled id={id('code')} label="Code" said={saidAt(problem, 'code')}>
          <input
            id={id('code')}
            className="text-input"
            autoComplete="off"
            {...form.register('code')}
          />
        </Labelled>
        {groups.map((group) => (
          <Fragment key={group}>
            {group && <h4>{group}</h4>}
            {kind.fields
              .filter((field) => field.group === group)
              .map((field) => (
                <PartFieldInput
                  key={field.id}
                  kind={kind}
                  field={field}
                  form={form}
                  problem={problem}
                  changed={() => save.reset()}
                />
              ))}
          </Fragment>
        ))}
        {kind.has_axle && (
          <Labelled id={id('fits')} label="Fits" said={saidAt(problem, 'fits')}>
            <select id={id('fits')} {...form.register('fits')}>
              <option value="both">both axles</option>
              <option value="front">front</option>
              <option value="rear">rear</option>
            </select>
          </Labelled>
        )}
        <Labelled id={id('note')} label="Note" said={saidAt(problem, 'note')}>
          <input id={id('note')} className="text-input" {...form.register('note')} />
        </Labelled>
      </div>
      {problem && !atFields && <Notice tone="draft">{problem.detail}</Notice>}
      <div className="form-acts">
        {problem?.asksToConfirm ? (
          <Button variant="dark" onClick={() => void send(true)}>
            Use these anyway
          </Button>
        ) : (
          <Button type="submit" variant="dark" disabled={save.isPending}>
            {editing.code ? 'Save' : 'Add to inventory'}
          </Button>
        )}
        <Button variant="link" onClick={done}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

function knows(kind: Kind, name: string | null): boolean {
  return (
    name !== null &&
    (['code', 'fits', 'note'].includes(name) || kind.fields.some((f) => f.id === name))
  );
}

interface LabelledProps {
  id: string;
  label: string;
  help?: string;
  said: string | undefined;
  children: React.ReactNode;
}

function Labelled({ id, label, help, said, children }: LabelledProps) {
  return (
    <div className={`cell${said ? ' has-problem' : ''}`} title={help}>
      <label htmlFor={id}>{label}</label>
      {children}
      <span className="field-said" role={said ? 'alert' : undefined}>
        {said}
      </span>
    </div>
  );
}

interface InputProps {
  kind: Kind;
  field: FieldEntry;
  form: UseFormReturn<Values>;
  problem: Problem | null;
  changed: () => void;
}

function PartFieldInput({ kind, field, form, problem, changed }: InputProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const id = `${kind.name}-${field.id}`;
  const label = field.needed ? `${field.label} (needed)` : field.label;
  const said = problem?.errors.find((one) => one.number === field.id && one.place === null)?.detail;
  const input = form.register(keyOf(field), { onChange: changed });
  if (field.kind === 'table')
    return <PartTable kind={kind} field={field} form={form} problem={problem} />;
  if (field.kind === 'flag')
    return (
      <div className="cell">
        <label>
          <input type="checkbox" id={id} {...input} /> {label}
        </label>
      </div>
    );
  return (
    <Labelled id={id} label={label} help={field.help} said={said}>
      {field.kind === 'choice' ? (
        <select id={id} {...input}>
          {field.options.map((one) => (
            <option key={one.value} value={one.value}>
              {one.words}
            </option>
          ))}
        </select>
      ) : (
        <span className="given-box">
          <input
            id={id}
            className={field.kind === 'words' ? 'text-input' : undefined}
            autoComplete="off"
            aria-invalid={said !== undefined}
            {...input}
          />
          {field.kind === 'figure' && (
            <small>{dictionary.shown(field.quantity, bench.profile).symbol}</small>
          )}
        </span>
      )}
    </Labelled>
  );
}

/** The table as a file that reads back: points by name, units in the header. */
function fileOf(header: string[], names: { label: string }[], rows: string[][]): string {
  const body = rows.flatMap((row, i) =>
    row.some(Boolean) ? [[...(names[i] ? [names[i].label] : []), ...row]] : [],
  );
  return csvOf([header, ...body]);
}

/** A table typed, pasted, or read from a file: what is read is shown before it is taken. */
function PartTable({ kind, field, form, problem }: Omit<InputProps, 'changed'>) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const [text, setText] = useState('');
  const rows = form.watch(keyOf(field)) as string[][];
  const look = api.useMutation('post', '/api/cars/{car_id}/parts/table');
  const read = (pasted: string) =>
    look.mutate({
      params: { path: { car_id: bench.id } },
      body: { kind: kind.name, field: field.id, text: pasted },
    });
  const problems = Object.fromEntries(
    (problem?.errors ?? [])
      .filter((one) => one.number === field.id)
      .map((one) => [one.place ?? '', one.detail]),
  );
  const id = `${kind.name}-${field.id}`;
  const names = field.rows.map((row) => ({
    ...row,
    shown: row.asked.every((one) => one.values.includes(form.watch(one.field) as string)),
  }));
  const header = [
    ...(names.length ? ['Point'] : []),
    ...field.columns.map((column) => {
      const unit = dictionary.shown(column.quantity, bench.profile).symbol;
      return unit ? `${column.label} (${unit})` : column.label;
    }),
  ];
  const preview = (look.data?.rows ?? []).flatMap((row, i) =>
    row.length ? [[...(names[i] ? [names[i].label] : []), ...row].join(' · ')] : [],
  );
  return (
    <fieldset className="cell cell-wide" id={id}>
      <legend>{field.label}</legend>
      {field.help && <p className="hint">{field.help}</p>}
      <TableField
        label={field.label}
        columns={field.columns.map((column) => ({
          label: column.label,
          unit: dictionary.shown(column.quantity, bench.profile).symbol,
        }))}
        rows={rows}
        names={field.rows.length ? names : undefined}
        set={(next) => form.setValue(keyOf(field), next)}
        problems={problems}
      />
      <details>
        <summary>Paste it or read a CSV file</summary>
        <textarea
          rows={4}
          aria-label={`${field.label}, pasted`}
          placeholder={header.join('; ')}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            look.reset();
          }}
        />
        <div className="form-acts">
          <button
            type="button"
            className="quiet"
            disabled={!text.trim()}
            onClick={() => read(text)}
          >
            Preview
          </button>
          <label className="quiet file-pick">
            Read a CSV file
            <input
              type="file"
              accept=".csv,.txt,text/csv,text/plain"
              className="visually-hidden"
              onChange={(event) => {
                const file = event.target.files?.[0];
                event.target.value = '';
                void file?.text().then((found) => {
                  setText(found);
                  read(found);
                });
              }}
            />
          </label>
        </div>
        {rows.some((row) => row.some(Boolean)) && (
          <a
            className="quiet"
            download={`${kind.name}.csv`}
            href={`data:text/csv;charset=utf-8,${encodeURIComponent(fileOf(header, names, rows))}`}
          >
            Save it as CSV
          </a>
        )}
        {look.error && <Notice tone="draft">{look.error.message}</Notice>}
        {look.data && (
          <>
            <p className="hint">
              {preview.length} rows
              {look.data.problems.length > 0 && `, ${look.data.problems.length} of them not usable`}
              :
            </p>
            <ol className="table-preview">
              {preview.slice(0, 6).map((row, i) => (
                <li key={i}>{row}</li>
              ))}
              {preview.length > 6 && <li>…</li>}
            </ol>
            {look.data.problems.length > 0 ? (
              <Notice tone="draft">{look.data.problems.join(' ')}</Notice>
            ) : (
              <button
                type="button"
                className="quiet"
                onClick={() => {
                  form.setValue(keyOf(field), look.data.rows);
                  setText('');
                  look.reset();
                }}
              >
                Take these {preview.length} rows
              </button>
            )}
          </>
        )}
      </details>
    </fieldset>
  );
}
