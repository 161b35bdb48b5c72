/** Coils cut off a spring, before they are: it cannot be uncut. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useBench } from '../bench/bench';
import { Problem } from '../lib/client';
import { showValue } from '../lib/format';
import { cutQuery, type CutAsked } from '../lib/queries';
import { CORNERS, useDictionary } from '../lib/vocabulary';
import { Field, Pick } from '../ui/fields';

const NOTHING: CutAsked = { place: 'LF', coils: '', off: '' };

export function CutPanel() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const [asked, setAsked] = useState(NOTHING);
  const found = useQuery({
    ...cutQuery(bench.id, asked),
    enabled: asked.coils.trim() !== '' && asked.off.trim() !== '',
    placeholderData: keepPreviousData,
  });
  const problem = found.error instanceof Problem ? found.error : null;
  const told = problem ? undefined : found.data;
  const shown = (quantity: 'rate' | 'dimension' | 'fine_dimension', value: number) => {
    const unit = dictionary.shown(quantity, bench.profile);
    return `${showValue(value, unit)} ${unit.symbol}`;
  };
  return (
    <details className="cut-spring">
      <summary>Cut coils, before the saw</summary>
      <p className="hint">
        Active coils are those that move: not the ground ends. A cut end wants the same seat as
        before. Maker’s guarantee and heat treatment end at the cut.
      </p>
      <Pick
        legend="Spring at"
        options={CORNERS.map((corner) => [corner, corner] as const)}
        value={asked.place}
        set={(place) => setAsked({ ...asked, place: place })}
      />
      <div className="cells">
        <Field
          id="cut-coils"
          field="coils"
          label="Active coils"
          value={asked.coils}
          set={(coils) => setAsked({ ...asked, coils })}
          problem={problem}
        />
        <Field
          id="cut-off"
          field="off"
          label="Coils cut off"
          value={asked.off}
          set={(off) => setAsked({ ...asked, off })}
          problem={problem}
        />
      </div>
      {problem && problem.errors.length === 0 && <p role="alert">{problem.detail}</p>}
      {told && (
        <dl className="clocked" role="status">
          {(
            [
              ['Spring rate', shown('rate', told.rate)],
              ['Free length', shown('dimension', told.free_length)],
              ['Wheel rate', shown('rate', told.wheel_rate)],
              ['Down at the spring', shown('fine_dimension', told.drop)],
              ['Down at the wheel', shown('fine_dimension', told.wheel_drop)],
            ] as const
          ).map(([label, value]) => (
            <div key={label}>
              <dt>{label}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
      )}
    </details>
  );
}
