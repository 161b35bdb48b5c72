/** Limits that the car is past, said where they are read; an engineer signs for one, and says on what. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { api, saidAt, type Schemas } from '../lib/client';
import { useMay } from '../lib/me';
import { useApiForm } from '../ui/form';
import { Notice } from '../ui/marks';
import { Moment } from '../ui/states';
import { useBench, useSaved } from './bench';

type Limit = Schemas['LimitView'];
type Decision = Schemas['SignedForIn']['decided_on'];

const DECISIONS: [Decision, string][] = [
  ['measured_again', 'Measured again'],
  ['part_changed', 'A part was changed'],
  ['rule_allows', 'The rule book allows it'],
  ['other', 'Something else'],
];

export function Limits({ of }: { of: (limit: Limit) => boolean }) {
  const { bench } = useBench();
  const found = bench.limits.filter(of);
  if (found.length === 0) return null;
  return (
    <ul className="past-limits">
      {found.map((one) => (
        <li key={one.words}>
          <OneLimit limit={one} />
        </li>
      ))}
    </ul>
  );
}

function OneLimit({ limit }: { limit: Limit }) {
  const may = useMay('release');
  const [open, setOpen] = useState(false);
  const { signed } = limit;
  if (signed) {
    return (
      <Notice>
        {limit.words} Signed for: {signed.on}, <Moment at={signed.at} by={signed.by} />.
      </Notice>
    );
  }
  return (
    <Notice tone="draft">
      {limit.words}
      {limit.bars && ' It keeps the car in until an engineer signs for it.'}
      {limit.bars && may && !open && (
        <>
          {' '}
          <Button variant="outline-dark" size="sm" onClick={() => setOpen(true)}>
            Sign for it
          </Button>
        </>
      )}
      {open && <Sign limit={limit} done={() => setOpen(false)} />}
    </Notice>
  );
}

function Sign({ limit, done }: { limit: Limit; done: () => void }) {
  const { bench } = useBench();
  const sign = api.useMutation('post', '/api/cars/{car_id}/watched/signed', useSaved(done));
  const form = useApiForm<{ decision: Decision | ''; words: string }>({
    id: `sign-${limit.kind}`,
    defaults: { decision: '', words: '' },
    save: sign,
    send: ({ decision, words }) => {
      if (decision)
        sign.mutate({
          params: { path: { car_id: bench.id } },
          body: { limit: limit.words, decided_on: decision, said: words },
        });
    },
  });
  const decision = form.values.watch('decision');
  const said = saidAt(sign.error, 'said');
  return (
    <form
      className="sign-for"
      aria-label="Sign for this limit"
      onSubmit={(event) => {
        event.preventDefault();
        form.send(false);
      }}
    >
      <fieldset>
        <legend>Decided on</legend>
        {DECISIONS.map(([id, label]) => (
          <label key={id}>
            <input type="radio" value={id} {...form.values.register('decision')} /> {label}
          </label>
        ))}
      </fieldset>
      <input
        className="text-input"
        aria-label="In words"
        placeholder={decision === 'other' ? 'On what, in three words at least' : 'In words'}
        aria-invalid={said !== undefined}
        {...form.values.register('words', { onChange: form.changed })}
      />
      {sign.error && <p role="alert">{said ?? sign.error.detail}</p>}
      <span className="form-acts">
        <Button type="submit" variant="dark" size="sm" disabled={!decision || sign.isPending}>
          Let it run like this
        </Button>
        <Button variant="link" size="sm" onClick={done}>
          Cancel
        </Button>
      </span>
    </form>
  );
}
