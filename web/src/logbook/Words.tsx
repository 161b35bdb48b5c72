/** The driver's words of a run, by phase, and the confidence left. */
import { useState } from 'react';
import { Link } from 'react-router';
import { api, type Schemas } from '../lib/client';
import { useBench, useSaved } from '../bench/bench';
import { Pick } from '../ui/fields';
import { FormSheet, useApiForm } from '../ui/form';
import { useMay } from '../lib/me';
import { useDictionary } from '../lib/vocabulary';

export function Words({ run }: { run: Schemas['RunView'] }) {
  const may = useMay('speak');
  const phases = usePhases();
  const [open, setOpen] = useState(false);
  return (
    <>
      {run.words.length > 0 && (
        <dl className="spoken">
          {run.words.map((one) => (
            <div key={one.phase}>
              <dt>{phases.find(({ id }) => id === one.phase)?.label ?? one.phase}</dt>
              <dd>“{one.text}”</dd>
            </div>
          ))}
        </dl>
      )}
      {run.confidence !== null && (
        <p className="confidence" title="5: all of it in reserve; 1: none left">
          confidence <b>{run.confidence}</b> of 5
        </p>
      )}
      {!open && (
        <p className="entry-acts">
          {may && (
            <button type="button" className="quiet" onClick={() => setOpen(true)}>
              {run.words.length ? 'Change the words' : 'Driver’s words'}
            </button>
          )}
          {run.words.length > 0 && <ToAdvice run={run.id} phase={run.words[0]?.phase ?? ''} />}
        </p>
      )}
      {open && <WordsForm run={run} done={() => setOpen(false)} />}
    </>
  );
}

export function ToAdvice({ run, phase }: { run: number; phase: string }) {
  const { bench } = useBench();
  const search = new URLSearchParams({ run: String(run), phase }).toString();
  return (
    <Link className="quiet" to={{ pathname: `/cars/${bench.id}/advise`, search }}>
      What to change
    </Link>
  );
}

/** What cars of this discipline go through. */
export function usePhases(): Schemas['PhaseEntry'][] {
  const { bench } = useBench();
  return useDictionary().discipline(bench.discipline).phases;
}

function WordsForm({ run, done }: { run: Schemas['RunView']; done: () => void }) {
  const { bench } = useBench();
  const phases = usePhases();
  const save = api.useMutation('put', '/api/cars/{car_id}/runs/{run_id}/words', useSaved(done));
  const form = useApiForm({
    id: `words-${run.id}`,
    defaults: {
      texts: phases.map(({ id }) => run.words.find((one) => one.phase === id)?.text ?? ''),
      confidence: run.confidence,
    },
    save,
    version: run.version,
    send: ({ texts, confidence }, _, header) =>
      save.mutate({
        params: { path: { car_id: bench.id, run_id: run.id }, header },
        body: {
          words: phases.map(({ id }, i) => ({ phase: id, text: texts[i] ?? '' })),
          confidence,
        },
      }),
  });
  return (
    <FormSheet of={form} act="Save" done={done}>
      {phases.map(({ id, label }, i) => (
        <label key={id}>
          {label}
          <input {...form.values.register(`texts.${i}`)} />
        </label>
      ))}
      <Pick
        legend="Confidence"
        options={[1, 2, 3, 4, 5].map((value) => [value, String(value)] as const)}
        value={form.values.watch('confidence')}
        set={(value) => form.values.setValue('confidence', value)}
      />
    </FormSheet>
  );
}
