/** Every form that writes: its values, what the API said of them at their fields, and how it is sent. */
import { useEffect, useId, useRef, useState, type ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import {
  useForm,
  type DefaultValues,
  type FieldValues,
  type Path,
  type UseFormReturn,
} from 'react-hook-form';
import { saidAt, type FieldError, type Problem } from '../lib/client';
import { Cell } from './fields';
import { Notice } from './marks';

interface Sending {
  error: Problem | null;
  isPending: boolean;
  reset: () => void;
}

export interface ApiForm<T extends FieldValues> {
  id: string;
  values: UseFormReturn<T>;
  problem: Problem | null;
  isPending: boolean;
  /** Send what is typed; `confirmed` where an unusual value is so. */
  send: (confirmed: boolean) => void;
  /** Something was typed: what was said of the last sending holds no more. */
  changed: () => void;
  /** The fields on the page, as problems name them. */
  fields: Set<string>;
}

interface FormOptions<T extends FieldValues> {
  /** What the ids of its fields begin with. */
  id: string;
  defaults: DefaultValues<T>;
  /** The mutation that sends it. */
  save: Sending;
  /** Of what is corrected, as it stands now. What is sent names the one that the form was opened on. */
  version?: string | undefined;
  send: (values: T, confirmed: boolean, header: Seen) => void;
}

/** Which version was seen of what is corrected: somebody else's correction meanwhile is not written over. */
type Seen = { 'If-Match'?: string };

/** The version that was seen: the one at opening, or the one that was shown with a refusal. */
function useSeen(version: string | undefined, problem: Problem | null): () => Seen {
  const seen = useRef(version);
  const refused = problem?.status === 412;
  useEffect(() => {
    if (refused) seen.current = version;
  }, [refused, version]);
  return () => (seen.current === undefined ? {} : { 'If-Match': seen.current });
}

export function useApiForm<T extends FieldValues>(options: FormOptions<T>): ApiForm<T> {
  const values = useForm<T>({ defaultValues: options.defaults });
  const [fields] = useState(() => new Set<string>());
  const { save } = options;
  const seen = useSeen(options.version, save.error);
  return {
    id: options.id,
    values,
    problem: save.error,
    isPending: save.isPending,
    send: (confirmed) => {
      options.send(values.getValues(), confirmed, seen());
    },
    changed: () => {
      if (save.error) save.reset();
    },
    fields,
  };
}

/** A field by the API's name of it, at one place or at any. */
const keyOf = (name: string, place: string | null | undefined) => `${name} ${place ?? ''}`;

interface FieldProps<T extends FieldValues> {
  of: ApiForm<T>;
  name: Path<T>;
  label: ReactNode;
  /** By what the API names it, where that is another name. */
  number?: string;
  place?: string;
  help?: string;
}

/** Say that a field tells its own problems: they are not told beside it again. */
export function useField<T extends FieldValues>(
  { fields }: ApiForm<T>,
  key: string,
  place?: string,
) {
  useEffect(() => {
    fields.add(keyOf(key, place));
    return () => {
      fields.delete(keyOf(key, place));
    };
  }, [fields, key, place]);
}

/** What was said of a field: by its number and place, or by where it stands in the request. */
function useSaid<T extends FieldValues>({ of, name, number, place }: FieldProps<T>) {
  const key: string = number ?? name;
  useField(of, key, place);
  const pointed = of.problem?.errors.find((one) => one.pointer === `#/${key}`)?.detail;
  return saidAt(of.problem, key, place) ?? pointed;
}

const idOf = (form: string, name: string) => `${form}-${name.replaceAll('.', '-')}`;

interface TextProps<T extends FieldValues> extends FieldProps<T> {
  type?: string;
  hint?: string;
  unit?: string;
  /** The list that offers what is usual. */
  list?: string;
}

export function TextField<T extends FieldValues>(props: TextProps<T>) {
  const { of, name, label, type = 'text', hint, unit, list, help } = props;
  const said = useSaid(props);
  const id = idOf(of.id, name);
  return (
    <Cell id={id} label={label} said={said} help={help}>
      <span className="given-box">
        <input
          id={id}
          className={unit === undefined ? 'text-input' : undefined}
          type={type}
          placeholder={hint}
          list={list}
          autoComplete="off"
          aria-invalid={said !== undefined}
          aria-describedby={`${id}-said`}
          {...of.values.register(name, { onChange: of.changed })}
        />
        {unit && <small>{unit}</small>}
      </span>
    </Cell>
  );
}

interface SelectProps<T extends FieldValues> extends FieldProps<T> {
  options: readonly (readonly [string, string])[];
  disabled?: boolean;
}

/** One of a list. */
export function SelectField<T extends FieldValues>(props: SelectProps<T>) {
  const { of, name, label, options, disabled, help } = props;
  const said = useSaid(props);
  const id = idOf(of.id, name);
  return (
    <Cell id={id} label={label} said={said} help={help}>
      <select
        id={id}
        disabled={disabled}
        aria-describedby={`${id}-said`}
        {...of.values.register(name, { onChange: of.changed })}
      >
        {options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </Cell>
  );
}

/** Whether something is so. */
export function CheckField<T extends FieldValues>({ of, name, label }: FieldProps<T>) {
  return (
    <label className="check">
      <input type="checkbox" {...of.values.register(name, { onChange: of.changed })} /> {label}
    </label>
  );
}

/** What was refused and belongs to no field on the page. */
export function OtherProblems<T extends FieldValues>({ of }: { of: ApiForm<T> }) {
  const { problem, fields } = of;
  if (!problem) return null;
  const isAtField = (one: FieldError) =>
    [one.number, one.pointer.slice(2)].some(
      (name) =>
        name !== null && (fields.has(keyOf(name, one.place)) || fields.has(keyOf(name, null))),
    );
  const others = problem.errors.filter((one) => !isAtField(one));
  if (problem.errors.length > 0 && others.length === 0) return null;
  return (
    <Notice tone="draft">{others.map((one) => one.detail).join(' ') || problem.detail}</Notice>
  );
}

/** The sheet of a form: its first field is in hand when it opens, and the first refused one when it comes back. */
export function useSheet<T extends FieldValues>({ problem }: ApiForm<T>) {
  const sheet = useRef<HTMLFormElement>(null);
  useEffect(() => sheet.current?.querySelector('input')?.focus(), []);
  useEffect(() => {
    // what only waits to be confirmed is confirmed where the hand is
    if (problem && !problem.asksToConfirm)
      sheet.current?.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus();
  }, [problem]);
  return sheet;
}

interface SheetProps<T extends FieldValues> {
  of: ApiForm<T>;
  title?: string;
  act: string;
  /** The way out without sending. */
  done?: () => void;
  /** What is asked where a value is unusual. */
  confirm?: string;
  className?: string;
  children: ReactNode;
}

/** A form on the page: its fields, what no field says, the act, and the way out. */
export function FormSheet<T extends FieldValues>(props: SheetProps<T>) {
  const { of, title, act, done, confirm, className = '', children } = props;
  const sheet = useSheet(of);
  return (
    <form
      ref={sheet}
      className={`inline-form ${className}`}
      noValidate
      aria-label={title}
      onSubmit={(event) => {
        event.preventDefault();
        of.send(false);
      }}
    >
      {title && <h2>{title}</h2>}
      {children}
      <OtherProblems of={of} />
      <div className="form-acts">
        {confirm && of.problem?.asksToConfirm ? (
          <Button variant="dark" onClick={() => of.send(true)}>
            {confirm}
          </Button>
        ) : (
          <Button type="submit" variant="dark" disabled={of.isPending}>
            {act}
          </Button>
        )}
        {done && (
          <Button variant="link" onClick={done}>
            Cancel
          </Button>
        )}
      </div>
    </form>
  );
}

interface OneLineProps {
  /** What the field is, for who hears it. */
  label: string;
  placeholder?: string;
  start?: string;
  act: string;
  className: string;
  save: Sending;
  send: (text: string) => void;
  done: () => void;
}

/** One thing asked in a line: its field in hand, the act, the way out. */
export function OneLine(props: OneLineProps) {
  const { label, placeholder, start = '', act, className, save, send, done } = props;
  const id = useId();
  const form = useApiForm({
    id,
    defaults: { text: start },
    save,
    send: ({ text }) => send(text),
  });
  const { setFocus } = form.values;
  useEffect(() => setFocus('text'), [setFocus]);
  return (
    <form
      className={className}
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        form.send(false);
      }}
    >
      <input
        className="text-input"
        aria-label={label}
        placeholder={placeholder}
        {...form.values.register('text', { onChange: form.changed })}
      />
      <button type="submit" className="quiet">
        {act}
      </button>
      <button type="button" className="quiet" onClick={done}>
        Cancel
      </button>
      <OtherProblems of={form} />
    </form>
  );
}
