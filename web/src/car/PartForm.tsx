/** The form of a part, made from the declaration of its kind: fields in their units, tables, groups. */
import { Fragment, useState } from 'react';
import { useBench, useSaved } from '../bench/bench';
import { csvOf } from '../lib/csv';
import { api, type Schemas } from '../lib/client';
import { showPrecise } from '../lib/format';
import { useDictionary } from '../lib/vocabulary';
import { Notice } from '../ui/marks';
import {
  CheckField,
  FormSheet,
  SelectField,
  TextField,
  useApiForm,
  useField,
  type ApiForm,
} from '../ui/form';
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

/** A part's own value as its field takes it. */
function useTyped() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  return (field: FieldEntry, value: unknown): unknown => {
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
}

interface FormProps {
  kind: Kind;
  editing: Editing;
  done: () => void;
}

function usePartForm({ kind, editing, done }: FormProps) {
  const { bench } = useBench();
  const typed = useTyped();
  const save = api.useMutation('post', '/api/cars/{car_id}/parts', useSaved(done));
  return useApiForm<Values>({
    id: kind.name,
    defaults: {
      code: editing.code,
      fits: editing.from?.fits ?? 'both',
      note: editing.code ? (editing.from?.note ?? '') : '',
      ...Object.fromEntries(
        kind.fields.map((field) => [keyOf(field), typed(field, editing.from?.values[field.id])]),
      ),
    },
    save,
    version: bench.parts[kind.name]?.find((part) => part.code === editing.code)?.version,
    send: (values, confirmed, header) =>
      save.mutate({
        params: { path: { car_id: bench.id }, header },
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
  });
}

const FITS = [
  ['both', 'both axles'],
  ['front', 'front'],
  ['rear', 'rear'],
] as const;

export function PartForm(props: FormProps) {
  const { kind, editing, done } = props;
  const form = usePartForm(props);
  const groups = [...new Set(kind.fields.map((field) => field.group))];
  return (
    <FormSheet
      of={form}
      title={editing.code ? `Edit ${editing.code}` : `Add ${kind.label.toLowerCase()}`}
      act={editing.code ? 'Save' : 'Add to inventory'}
      confirm="Use these anyway"
      done={done}
      className="part-form"
    >
      <div className="cells">
        <TextField of={form} name="code" label="Code" />
        {groups.map((group) => (
          <Fragment key={group}>
            {group && <h4>{group}</h4>}
            {kind.fields
              .filter((field) => field.group === group)
              .map((field) => (
                <PartFieldInput key={field.id} kind={kind} field={field} form={form} />
              ))}
          </Fragment>
        ))}
        {kind.has_axle && <SelectField of={form} name="fits" label="Fits" options={FITS} />}
        <TextField of={form} name="note" label="Note" />
      </div>
    </FormSheet>
  );
}

interface InputProps {
  kind: Kind;
  field: FieldEntry;
  form: ApiForm<Values>;
}

function PartFieldInput({ kind, field, form }: InputProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const label = field.needed ? `${field.label} (needed)` : field.label;
  const common = { of: form, name: keyOf(field), label, number: field.id, help: field.help };
  if (field.kind === 'table') return <PartTable kind={kind} field={field} form={form} />;
  if (field.kind === 'flag')
    return (
      <div className="cell">
        <CheckField {...common} />
      </div>
    );
  if (field.kind === 'choice')
    return <SelectField {...common} options={field.options.map((one) => [one.value, one.words])} />;
  const unit =
    field.kind === 'figure' ? dictionary.shown(field.quantity, bench.profile).symbol : undefined;
  return <TextField {...common} {...(unit === undefined ? {} : { unit })} />;
}

/** The table as a file that reads back: points by name, units in the header. */
function fileOf(header: string[], names: { label: string }[], rows: string[][]): string {
  const body = rows.flatMap((row, i) =>
    row.some(Boolean) ? [[...(names[i] ? [names[i].label] : []), ...row]] : [],
  );
  return csvOf([header, ...body]);
}

/** A table typed, pasted, or read from a file. */
function PartTable({ kind, field, form }: InputProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const rows = form.values.watch(keyOf(field)) as string[][];
  const problems = Object.fromEntries(
    (form.problem?.errors ?? [])
      .filter((one) => one.number === field.id)
      .map((one) => [one.place ?? '', one.detail]),
  );
  useField(form, field.id);
  const names = field.rows.map((row) => ({
    ...row,
    shown: row.asked.every((one) => one.values.includes(form.values.watch(one.field) as string)),
  }));
  const columns = field.columns.map((column) => ({
    label: column.label,
    unit: dictionary.shown(column.quantity, bench.profile).symbol,
  }));
  const header = [
    ...(names.length ? ['Point'] : []),
    ...columns.map(({ label, unit }) => (unit ? `${label} (${unit})` : label)),
  ];
  const take = (next: string[][]) => {
    form.changed();
    form.values.setValue(keyOf(field), next);
  };
  return (
    <fieldset className="cell cell-wide" id={`${kind.name}-${field.id}`}>
      <legend>{field.label}</legend>
      {field.help && <p className="hint">{field.help}</p>}
      <TableField
        label={field.label}
        columns={columns}
        rows={rows}
        names={field.rows.length ? names : undefined}
        set={take}
        problems={problems}
      />
      <PasteTable
        kind={kind}
        field={field}
        header={header}
        file={rows.some((row) => row.some(Boolean)) ? fileOf(header, names, rows) : null}
        take={take}
      />
    </fieldset>
  );
}

interface PasteProps {
  kind: Kind;
  field: FieldEntry;
  header: string[];
  /** What is typed so far as a CSV file; null where nothing is. */
  file: string | null;
  take: (rows: string[][]) => void;
}

/** A table pasted or read from a file: what is read is shown before it is taken. */
function PasteTable({ kind, field, header, file, take }: PasteProps) {
  const { bench } = useBench();
  const [text, setText] = useState('');
  const look = api.useMutation('post', '/api/cars/{car_id}/parts/table');
  const read = (pasted: string) =>
    look.mutate({
      params: { path: { car_id: bench.id } },
      body: { kind: kind.name, field: field.id, text: pasted },
    });
  return (
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
        <button type="button" className="quiet" disabled={!text.trim()} onClick={() => read(text)}>
          Preview
        </button>
        <label className="quiet file-pick">
          Read a CSV file
          <input
            type="file"
            accept=".csv,.txt,text/csv,text/plain"
            className="visually-hidden"
            onChange={(event) => {
              const picked = event.target.files?.[0];
              event.target.value = '';
              void picked?.text().then((found) => {
                setText(found);
                read(found);
              });
            }}
          />
        </label>
      </div>
      {file !== null && (
        <a
          className="quiet"
          download={`${kind.name}.csv`}
          href={`data:text/csv;charset=utf-8,${encodeURIComponent(file)}`}
        >
          Save it as CSV
        </a>
      )}
      {look.error && <Notice tone="draft">{look.error.message}</Notice>}
      {look.data && (
        <TablePreview
          field={field}
          found={look.data}
          take={(rows) => {
            take(rows);
            setText('');
            look.reset();
          }}
        />
      )}
    </details>
  );
}

interface PreviewProps {
  field: FieldEntry;
  found: Schemas['TableView'];
  take: (rows: string[][]) => void;
}

const PREVIEWED = 6;

function TablePreview({ field, found, take }: PreviewProps) {
  const rows = found.rows.flatMap((row, i) => {
    const point = field.rows[i]?.label;
    return row.length ? [[...(point ? [point] : []), ...row].join(' · ')] : [];
  });
  return (
    <>
      <p className="hint">
        {rows.length} rows
        {found.problems.length > 0 && `, ${found.problems.length} of them not usable`}:
      </p>
      <ol className="table-preview">
        {rows.slice(0, PREVIEWED).map((row, i) => (
          <li key={i}>{row}</li>
        ))}
        {rows.length > PREVIEWED && <li>…</li>}
      </ol>
      {found.problems.length > 0 ? (
        <Notice tone="draft">{found.problems.join(' ')}</Notice>
      ) : (
        <button type="button" className="quiet" onClick={() => take(found.rows)}>
          Take these {rows.length} rows
        </button>
      )}
    </>
  );
}
