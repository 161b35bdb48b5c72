/** Fields that stand by themselves: one with its sentence, a list to choose from, a row of choices. */
import { useId, type ReactNode } from 'react';
import type { Problem } from '../lib/client';

/** A layout or an axle as it is said: `parallel_four_link` reads parallel four link. */
export function layoutWords(key: string): string {
  const words: Record<string, string> = {
    parallel_four_link: 'parallel four-link',
    triangulated_four_link: 'triangulated four-link',
    three_link: 'three-link',
    ladder_bar: 'ladder bars',
    leaf: 'leaf springs',
    all: 'all four wheels',
  };
  return words[key] ?? key.replaceAll('_', ' ');
}

interface CellProps {
  id: string;
  label: ReactNode;
  said: string | undefined;
  /** What stands there where nothing was said. */
  hint?: string;
  help?: string | undefined;
  children: ReactNode;
}

/** A labelled field with the sentence that stands under it and is read out with it. */
export function Cell({ id, label, said, hint, help, children }: CellProps) {
  return (
    <div className={`cell${said ? ' has-problem' : ''}`} title={help}>
      <label htmlFor={id}>{label}</label>
      {children}
      <span id={`${id}-said`} className="field-said" role={said ? 'alert' : undefined}>
        {said ?? hint}
      </span>
    </div>
  );
}

interface FieldProps {
  id: string;
  label: string;
  value: string;
  set: (value: string) => void;
  /** The field's name in the API, by which a problem finds it. */
  field: string;
  problem: Problem | null;
  type?: string;
  hint?: string;
  unit?: string;
}

/** A field whose problem stands under it and is read out with it. */
export function Field({
  id,
  label,
  value,
  set,
  field,
  problem,
  type = 'text',
  hint,
  unit,
}: FieldProps) {
  const said = problem?.errors.find(
    (one) => one.number === field || one.pointer === `#/${field}`,
  )?.detail;
  return (
    <Cell id={id} label={label} said={said}>
      <span className="given-box">
        <input
          id={id}
          className={unit ? undefined : 'text-input'}
          type={type}
          inputMode={unit ? 'decimal' : undefined}
          value={value}
          placeholder={hint}
          autoComplete="off"
          aria-invalid={said !== undefined}
          aria-describedby={`${id}-said`}
          onChange={(event) => set(event.target.value)}
        />
        {unit && <small>{unit}</small>}
      </span>
    </Cell>
  );
}

interface ChooseProps<T extends string> {
  id: string;
  label: string;
  value: T;
  set: (value: T) => void;
  options: [T, string][];
  disabled?: boolean;
}

/** One of a list. */
export function Choose<T extends string>({
  id,
  label,
  value,
  set,
  options,
  disabled,
}: ChooseProps<T>) {
  return (
    <div className="cell">
      <label htmlFor={id}>{label}</label>
      <select
        id={id}
        disabled={disabled}
        value={value}
        onChange={(event) => set(event.target.value as T)}
      >
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </div>
  );
}

interface PickProps<T extends string | number> {
  legend: string;
  options: readonly (readonly [T, string])[];
  value: T | null;
  set: (value: T) => void;
  disabled?: boolean;
}

/** One of a few, all in sight. */
export function Pick<T extends string | number>({
  legend,
  options,
  value,
  set,
  disabled,
}: PickProps<T>) {
  const name = useId();
  return (
    <fieldset className="choice" disabled={disabled}>
      <legend>{legend}</legend>
      {options.map(([key, words]) => (
        <label key={key} className={key === value ? 'is-on' : undefined}>
          <input type="radio" name={name} checked={key === value} onChange={() => set(key)} />
          {words}
        </label>
      ))}
    </fieldset>
  );
}
