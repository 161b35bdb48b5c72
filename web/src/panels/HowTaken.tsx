/** With what, where and how a reading was taken; the instrument's own zero is taken off. */
import { useId } from 'react';
import Form from 'react-bootstrap/Form';
import { useBench } from '../bench/bench';
import type { NumberName, Schemas } from '../lib/client';
import { useDictionary } from '../lib/vocabulary';
import { SelectField, TextField, type ApiForm } from '../ui/form';
import type { ReadingDraft } from './readingDraft';

interface Props {
  of: ApiForm<ReadingDraft>;
  row: Schemas['ReadingKindEntry'];
  names: NumberName[];
}

const STAGES = [
  ['', 'as it stands now'],
  ['before', 'before the work'],
  ['after', 'after the work'],
] as const;
/** What an instrument may show where nothing is. */
const ZEROED = ['height', 'dimension', 'fine_dimension', 'mass', 'angle'];

export function HowTaken({ of, row, names }: Props) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const tools = useId();
  const zeroed = names.filter((name) => ZEROED.includes(dictionary.entry(name).quantity));
  const zeroOf = (name: NumberName) =>
    zeroed.length > 1
      ? `Zero of ${dictionary.entry(name).label.toLowerCase()}`
      : 'Zero or block height';
  return (
    <details className="how-taken">
      <summary>How it was taken</summary>
      <div className="cells">
        <TextField of={of} name="instrument" label="Instrument" list={tools} />
        <datalist id={tools}>
          {row.tools.map((tool) => (
            <option key={tool} value={tool} />
          ))}
        </datalist>
        <TextField of={of} name="place" label="Where on the car" />
        {zeroed.map((name) => (
          <TextField
            key={name}
            of={of}
            name={`zero.${name}`}
            number={`zero.${name}`}
            label={zeroOf(name)}
            hint="0"
            unit={dictionary.shown(dictionary.entry(name).quantity, bench.profile).symbol}
          />
        ))}
        {row.stages && <SelectField of={of} name="stage" label="Stage" options={STAGES} />}
      </div>
      <Form.Check
        id={`${row.id}-eye`}
        label="Taken by eye: it stands as doubtful"
        {...of.values.register('byEye', { onChange: of.changed })}
      />
    </details>
  );
}
