/** Adding something to watch: each kind asks for its own figures. */
import { useBench, useSaved } from '../bench/bench';
import { api, type NumberName, type Schemas } from '../lib/client';
import { useDictionary } from '../lib/vocabulary';
import {
  CheckField,
  FormSheet,
  SelectField,
  TextField,
  useApiForm,
  type ApiForm,
} from '../ui/form';

type Kind = Schemas['WatchedView']['kind'];
type Interval = NonNullable<Schemas['WatchIn']['unit']>;

const EMPTY = {
  words: '',
  value: '',
  source: '',
  system: '',
  number: 'total_mass' as NumberName,
  least: '',
  most: '',
  every: '',
  unit: 'runs' as Interval,
  bars: false,
  loaded: false,
};

interface Props {
  kind: Kind;
  title: string;
  /** What the words name: a joint, a rule. */
  what: string;
  done: () => void;
  saved: () => void;
}

export function WatchedForm({ kind, title, what, done, saved }: Props) {
  const { bench } = useBench();
  const save = api.useMutation('post', '/api/cars/{car_id}/watched', useSaved(saved));
  const form = useApiForm({
    id: `watch-${kind}`,
    defaults: EMPTY,
    save,
    send: (values) =>
      save.mutate({ params: { path: { car_id: bench.id } }, body: { kind, ...values } }),
  });
  return (
    <FormSheet of={form} title={title} act="Add" done={done}>
      <div className="cells">
        <TextField of={form} name="words" label={what} />
        {kind === 'torque' && <TorqueFields of={form} />}
        {kind === 'limit' && <LimitFields of={form} />}
        {kind === 'service' && <ServiceFields of={form} />}
      </div>
      {kind === 'issue' && (
        <CheckField of={form} name="bars" label="Keeps the car in until an engineer clears it" />
      )}
      {kind === 'torque' && (
        <>
          <CheckField of={form} name="loaded" label="Torqued with the car on its wheels" />
          <p className="hint">
            Torque figures come from the part’s maker; there is no default here.
          </p>
        </>
      )}
    </FormSheet>
  );
}

interface FieldsProps {
  of: ApiForm<typeof EMPTY>;
}

function TorqueFields({ of }: FieldsProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const systems = dictionary.data.systems.map((one) => [one.id, one.label] as const);
  return (
    <>
      <TextField
        of={of}
        name="value"
        label="Torque"
        unit={dictionary.shown('torque', bench.profile).symbol}
      />
      <TextField of={of} name="source" label="Figure from" hint="the part’s maker" />
      <SelectField
        of={of}
        name="system"
        label="Due after work on"
        options={[['', 'anything'], ...systems]}
      />
    </>
  );
}

function LimitFields({ of }: FieldsProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const limited = dictionary.entry(of.values.watch('number'));
  const { symbol } = dictionary.shown(limited.quantity, bench.profile);
  return (
    <>
      <SelectField
        of={of}
        name="number"
        label="Figure"
        options={dictionary.data.limited.map((name) => [name, dictionary.entry(name).label])}
      />
      <TextField of={of} name="least" label="At least" unit={symbol} />
      <TextField of={of} name="most" label="At most" unit={symbol} />
    </>
  );
}

function ServiceFields({ of }: FieldsProps) {
  const { bench } = useBench();
  const laps = useDictionary().discipline(bench.discipline).clock === 'laps';
  const far: Interval = bench.profile === 'imperial' ? 'miles' : 'km';
  // a strip has no laps to count
  const units: Interval[] = ['runs', 'days', ...(laps ? [far] : [])];
  return (
    <>
      <TextField of={of} name="every" label="Every" />
      <SelectField
        of={of}
        name="unit"
        label="Counted in"
        options={units.map((one) => [one, one])}
      />
    </>
  );
}
